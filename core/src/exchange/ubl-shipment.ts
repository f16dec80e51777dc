import type { TradeItem, TradeParty } from './documents';
import { itemOf, party } from './ubl-parts';
import { writeXml } from './xml';

/** Goods that have left us for a customer, carton by carton. Quantities in the unit of the line, a UN/ECE Recommendation 20 code. */
export interface ShipmentAdvice {
  /** The shipments it tells of: 20400-1. */
  readonly number: string;
  readonly issueDay: string;
  readonly note: string;
  /** The customer's purchase orders, and ours. */
  readonly orders: readonly { readonly poNumber: string; readonly number: string }[];
  readonly tracking: string;
  readonly arrives: string;
  readonly grossKilograms: string;
  readonly cartons: readonly { readonly sscc: string; readonly kilograms: string | null; readonly type: string }[];
  readonly lines: readonly {
    readonly order: string;
    readonly lineNo: number;
    readonly quantity: string;
    readonly unit: string;
    /** Still owed of the line. */
    readonly outstanding: string;
    readonly item: TradeItem;
    readonly lot: string;
    readonly expires: string | null;
    readonly serials: readonly string[];
    /** Of the carton it is in; empty: it is in none. */
    readonly sscc: string;
  }[];
}

/**
 * A despatch advice for a customer as UBL 2.1, with a handling unit a carton by its SSCC. Source of the form: OASIS UBL 2.1, DespatchAdvice;
 * that a unit is named by its SSCC is common practice of such advices.
 */
export function writeShipmentAdvice(advice: ShipmentAdvice, seller: TradeParty, buyer: TradeParty): string {
  return writeXml('DespatchAdvice', {
    'cbc:ID': advice.number,
    'cbc:IssueDate': advice.issueDay,
    ...(advice.note ? { 'cbc:Note': advice.note } : {}),
    'cbc:LineCountNumeric': String(advice.lines.length),
    'cac:OrderReference': advice.orders.map(({ poNumber, number }) => ({ 'cbc:ID': poNumber || number, 'cbc:SalesOrderID': number })),
    'cac:DespatchSupplierParty': party(seller),
    'cac:DeliveryCustomerParty': party(buyer),
    'cac:Shipment': {
      'cbc:ID': advice.number,
      'cbc:GrossWeightMeasure': { '@unitCode': 'KGM', '#text': advice.grossKilograms },
      'cbc:TotalTransportHandlingUnitQuantity': String(advice.cartons.length),
      'cac:Delivery': {
        ...(advice.tracking ? { 'cbc:TrackingID': advice.tracking } : {}),
        'cac:EstimatedDeliveryPeriod': { 'cbc:EndDate': advice.arrives },
      },
      ...(advice.cartons.length > 0
        ? {
            'cac:TransportHandlingUnit': advice.cartons.map(({ sscc, kilograms, type }) => ({
              'cbc:ID': { '@schemeID': 'SSCC', '#text': sscc },
              'cbc:TransportHandlingUnitTypeCode': type,
              ...(kilograms === null
                ? {}
                : { 'cac:MeasurementDimension': { 'cbc:AttributeID': 'AAB', 'cbc:Measure': { '@unitCode': 'KGM', '#text': kilograms } } }),
            })),
          }
        : {}),
    },
    'cac:DespatchLine': advice.lines.map((line, at) => ({
      'cbc:ID': String(at + 1),
      'cbc:DeliveredQuantity': { '@unitCode': line.unit, '#text': line.quantity },
      'cbc:OutstandingQuantity': { '@unitCode': line.unit, '#text': line.outstanding },
      'cac:OrderLineReference': { 'cbc:LineID': String(line.lineNo), 'cac:OrderReference': { 'cbc:ID': line.order } },
      'cac:Item': { ...itemOf(line.item), ...instances(line) },
      ...(line.sscc === ''
        ? {}
        : { 'cac:Shipment': { 'cbc:ID': advice.number, 'cac:TransportHandlingUnit': { 'cbc:ID': { '@schemeID': 'SSCC', '#text': line.sscc } } } }),
    })),
  });
}

/** A lot, and each piece by its serial number. */
function instances({ lot, expires, serials }: ShipmentAdvice['lines'][number]) {
  const ofLot = lot === '' ? {} : { 'cac:LotIdentification': { 'cbc:LotNumberID': lot, ...(expires === null ? {} : { 'cbc:ExpiryDate': expires }) } };
  if (serials.length === 0) return lot === '' ? {} : { 'cac:ItemInstance': ofLot };
  return { 'cac:ItemInstance': serials.map((serial) => ({ 'cbc:SerialID': serial, ...ofLot })) };
}
