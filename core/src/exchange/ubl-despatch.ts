import type { DespatchAdviceMessage, TradeParty } from './documents';
import { decimalAt, dayAt, party, required } from './ubl-parts';
import { textAt, readXml, allOf, writeXml, type Read } from './xml';

/** That goods have left, as UBL 2.1. */
export function writeDespatchAdvice(advice: DespatchAdviceMessage, seller: TradeParty, buyer: TradeParty, unitOf: (line: string) => string): string {
  return writeXml('DespatchAdvice', {
    'cbc:ID': advice.number,
    'cbc:IssueDate': advice.issueDay,
    'cac:OrderReference': { 'cbc:ID': advice.order },
    'cac:DespatchSupplierParty': party(seller),
    'cac:DeliveryCustomerParty': party(buyer),
    'cac:Shipment': { 'cbc:ID': advice.number, ...(advice.tracking ? { 'cac:Delivery': { 'cbc:TrackingID': advice.tracking } } : {}) },
    'cac:DespatchLine': advice.lines.map((line, index) => ({
      'cbc:ID': String(index + 1),
      'cbc:DeliveredQuantity': { '@unitCode': unitOf(line.orderLine), '#text': line.quantity },
      'cac:OrderLineReference': { 'cbc:LineID': line.orderLine },
      'cac:Item':
        line.lot === ''
          ? {}
          : {
              'cac:ItemInstance': {
                'cac:LotIdentification': { 'cbc:LotNumberID': line.lot, ...(line.expires === null ? {} : { 'cbc:ExpiryDate': line.expires }) },
              },
            },
    })),
  });
}

/** Reads that goods have left; every fault names the line it is in. */
export function readDespatchAdvice(xml: string): Read<DespatchAdviceMessage> {
  const read = readXml(xml, ['DespatchAdvice']);
  if (!read.ok) return read;
  const { content } = read.document;
  const faults: string[] = [];
  const [number, order, issueDay] = ['ID', 'OrderReference/ID', 'IssueDate'].map((path) => required(content, path, 'DespatchAdvice', faults)) as [
    string,
    string,
    string,
  ];
  const lines = allOf(content, 'DespatchLine').map((line, index) => {
    const where = `DespatchLine ${index + 1}`;
    const quantity = decimalAt(line, 'DeliveredQuantity', where, faults);
    if (quantity === null) faults.push(`${where}: DeliveredQuantity is missing`);
    return {
      orderLine: required(line, 'OrderLineReference/LineID', where, faults),
      quantity: quantity ?? '0',
      unit: textAt(line, 'DeliveredQuantity/@unitCode') || null,
      lot: textAt(line, 'Item/ItemInstance/LotIdentification/LotNumberID').slice(0, 20),
      expires: dayAt(textAt(line, 'Item/ItemInstance/LotIdentification/ExpiryDate'), where, faults),
    };
  });
  if (lines.length === 0) faults.push('DespatchAdvice: it has no line');
  return faults.length > 0
    ? { ok: false, faults }
    : { ok: true, document: { number, issueDay, order, tracking: textAt(content, 'Shipment/Delivery/TrackingID'), lines } };
}
