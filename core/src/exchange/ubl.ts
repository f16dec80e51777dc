import type { CancellationMessage, OrderResponseMessage, PurchaseOrderMessage, TradeParty, WholeAnswer } from './documents';
import { dayAt, decimalAt, itemOf, party, readParty, required } from './ubl-parts';
import { allOf, at, readXml, textAt, writeXml, type Read } from './xml';

/** Line status, UN/EDIFACT code list 1229: changed, accepted without amendment, not accepted. (From memory.) */
const LINE_STATUS = { changed: '3', accepted: '5', refused: '7' } as const;
/** As read: also deleted, and accepted with amendment. */
const LINE_ANSWERS: Readonly<Record<string, 'accepted' | 'changed' | 'refused'>> = {
  '2': 'refused',
  '3': 'changed',
  '5': 'accepted',
  '6': 'changed',
  '7': 'refused',
};

/** Answer to an order as a whole, UN/EDIFACT code list 4343: accepted, conditionally accepted, rejected. (From memory.) */
const RESPONSE = { received: 'AB', accepted: 'AP', changed: 'CA', refused: 'RE' } as const;
/** As read: also acknowledged with detail and change, and with detail and no change. */
const WHOLE_ANSWERS: Readonly<Record<string, WholeAnswer>> = {
  AB: 'received',
  AC: 'changed',
  AD: 'accepted',
  AP: 'accepted',
  CA: 'changed',
  RE: 'refused',
};

/** An order as UBL 2.1. */
export function writeOrder(order: PurchaseOrderMessage): string {
  return writeXml('Order', {
    'cbc:ID': order.number,
    'cbc:IssueDate': order.issueDay,
    ...(order.note ? { 'cbc:Note': order.note } : {}),
    'cbc:DocumentCurrencyCode': order.currency,
    'cac:BuyerCustomerParty': party(order.buyer),
    'cac:SellerSupplierParty': party(order.seller),
    'cac:Delivery': { 'cac:DeliveryAddress': { 'cac:AddressLine': { 'cbc:Line': order.shipTo } } },
    'cac:OrderLine': order.lines.map((line) => ({
      'cac:LineItem': {
        'cbc:ID': line.id,
        'cbc:Quantity': { '@unitCode': line.unit, '#text': line.quantity },
        'cbc:LineExtensionAmount': { '@currencyID': order.currency, '#text': line.amount },
        'cac:Delivery': { 'cac:RequestedDeliveryPeriod': { 'cbc:EndDate': line.day } },
        'cac:Price': {
          'cbc:PriceAmount': { '@currencyID': order.currency, '#text': line.price },
          'cbc:BaseQuantity': { '@unitCode': line.unit, '#text': '1' },
        },
        'cac:Item': itemOf(line.item),
      },
    })),
  });
}

/** Reads an order, as whoever gets it does. */
export function readOrder(xml: string): Read<PurchaseOrderMessage> {
  const read = readXml(xml, ['Order']);
  if (!read.ok) return read;
  const { content } = read.document;
  return {
    ok: true,
    document: {
      number: textAt(content, 'ID'),
      issueDay: textAt(content, 'IssueDate'),
      note: textAt(content, 'Note'),
      currency: textAt(content, 'DocumentCurrencyCode'),
      buyer: readParty(at(content, 'BuyerCustomerParty')),
      seller: readParty(at(content, 'SellerSupplierParty')),
      shipTo: textAt(content, 'Delivery/DeliveryAddress/AddressLine/Line'),
      lines: allOf(content, 'OrderLine').map((line) => ({
        id: textAt(line, 'LineItem/ID'),
        quantity: textAt(line, 'LineItem/Quantity'),
        unit: textAt(line, 'LineItem/Quantity/@unitCode'),
        amount: textAt(line, 'LineItem/LineExtensionAmount'),
        price: textAt(line, 'LineItem/Price/PriceAmount'),
        day: textAt(line, 'LineItem/Delivery/RequestedDeliveryPeriod/EndDate'),
        item: {
          description: textAt(line, 'LineItem/Item/Description'),
          buyersCode: textAt(line, 'LineItem/Item/BuyersItemIdentification/ID'),
          sellersCode: textAt(line, 'LineItem/Item/SellersItemIdentification/ID'),
          ...(textAt(line, 'LineItem/Item/StandardItemIdentification/ID') ? { gtin: textAt(line, 'LineItem/Item/StandardItemIdentification/ID') } : {}),
        },
      })),
    },
  };
}

/** That an order is taken back, as UBL 2.1. */
export function writeCancellation(message: CancellationMessage): string {
  return writeXml('OrderCancellation', {
    'cbc:ID': message.number,
    'cbc:IssueDate': message.issueDay,
    'cbc:CancellationNote': message.note,
    'cac:OrderReference': { 'cbc:ID': message.order },
    'cac:BuyerCustomerParty': party(message.buyer),
    'cac:SellerSupplierParty': party(message.seller),
  });
}

/** The number of the order that is taken back. */
export function readCancellation(xml: string): Read<{ readonly order: string }> {
  const read = readXml(xml, ['OrderCancellation']);
  return read.ok ? { ok: true, document: { order: textAt(read.document.content, 'OrderReference/ID') } } : read;
}

/** A supplier's answer as UBL 2.1. */
export function writeOrderResponse(
  response: OrderResponseMessage,
  seller: TradeParty,
  buyer: TradeParty,
  unitOf: (line: string) => string,
  currency: string,
): string {
  const answers = new Set(response.lines.map((line) => line.answer));
  const whole = response.whole ?? (answers.size === 1 ? [...answers][0]! : 'changed');
  return writeXml('OrderResponse', {
    'cbc:ID': response.number,
    'cbc:IssueDate': response.issueDay,
    'cbc:OrderResponseCode': RESPONSE[whole],
    ...(response.note ? { 'cbc:Note': response.note } : {}),
    'cac:OrderReference': { 'cbc:ID': response.order },
    'cac:SellerSupplierParty': party(seller),
    'cac:BuyerCustomerParty': party(buyer),
    'cac:OrderLine': response.lines.map((line) => ({
      'cac:LineItem': {
        'cbc:ID': line.id,
        ...(line.note ? { 'cbc:Note': line.note } : {}),
        'cbc:LineStatusCode': LINE_STATUS[line.answer],
        ...(line.quantity === null ? {} : { 'cbc:Quantity': { '@unitCode': unitOf(line.id), '#text': line.quantity } }),
        ...(line.day === null ? {} : { 'cac:Delivery': { 'cac:PromisedDeliveryPeriod': { 'cbc:EndDate': line.day } } }),
        ...(line.price === null ? {} : { 'cac:Price': { 'cbc:PriceAmount': { '@currencyID': currency, '#text': line.price } } }),
        'cac:Item': {},
      },
      ...(line.instead === null
        ? {}
        : { 'cac:SellerProposedSubstituteLineItem': { 'cbc:ID': line.id, 'cac:Item': { 'cac:SellersItemIdentification': { 'cbc:ID': line.instead } } } }),
      'cac:OrderLineReference': { 'cbc:LineID': line.id },
    })),
  });
}

/**
 * Reads a supplier's answer; every fault names the line it is in. What the header says holds for lines that say nothing of
 * their own; a header and lines that contradict each other are a fault: nobody guesses which of them is meant.
 */
export function readOrderResponse(xml: string): Read<OrderResponseMessage> {
  const read = readXml(xml, ['OrderResponse']);
  if (!read.ok) return read;
  const { content } = read.document;
  const faults: string[] = [];
  const [number, order, issueDay] = ['ID', 'OrderReference/ID', 'IssueDate'].map((path) => required(content, path, 'OrderResponse', faults)) as [
    string,
    string,
    string,
  ];
  const code = textAt(content, 'OrderResponseCode');
  const whole = WHOLE_ANSWERS[code] ?? null;
  if (code !== '' && whole === null)
    faults.push(`OrderResponse: OrderResponseCode ${code.slice(0, 30)}, expected one of ${Object.keys(WHOLE_ANSWERS).join(', ')}`);
  const rows = allOf(content, 'OrderLine');
  if (code === '' && rows.length === 0) faults.push('OrderResponse: it says neither yes nor no: it has no OrderResponseCode and no line');
  const lines = rows.map((line, index) => {
    const where = `OrderLine ${index + 1}`;
    const id = textAt(line, 'OrderLineReference/LineID') || required(line, 'LineItem/ID', where, faults);
    const status = textAt(line, 'LineItem/LineStatusCode');
    const known = LINE_ANSWERS[status];
    if (status !== '' && known === undefined)
      faults.push(`${where}: LineStatusCode ${status.slice(0, 30)}, expected one of ${Object.keys(LINE_ANSWERS).join(', ')}`);
    if (whole === 'refused' && known !== undefined && known !== 'refused')
      faults.push(`${where}: LineStatusCode ${status} takes the line, OrderResponseCode ${code} refuses the order`);
    if (whole === 'accepted' && known === 'refused')
      faults.push(`${where}: LineStatusCode ${status} refuses the line, OrderResponseCode ${code} takes the order`);
    const day = textAt(line, 'LineItem/Delivery/PromisedDeliveryPeriod/EndDate') || textAt(line, 'LineItem/Delivery/PromisedDeliveryPeriod/StartDate');
    return {
      id,
      answer: known ?? (whole === 'refused' ? ('refused' as const) : ('accepted' as const)),
      quantity: decimalAt(line, 'LineItem/Quantity', where, faults),
      unit: textAt(line, 'LineItem/Quantity/@unitCode') || null,
      day: dayAt(day, where, faults),
      price: decimalAt(line, 'LineItem/Price/PriceAmount', where, faults),
      priceFor: decimalAt(line, 'LineItem/Price/BaseQuantity', where, faults),
      priceUnit: textAt(line, 'LineItem/Price/BaseQuantity/@unitCode') || null,
      note: textAt(line, 'LineItem/Note'),
      instead: textAt(line, 'SellerProposedSubstituteLineItem/Item/SellersItemIdentification/ID') || null,
    };
  });
  return faults.length > 0 ? { ok: false, faults } : { ok: true, document: { number, issueDay, order, whole, note: textAt(content, 'Note'), lines } };
}

/** What kind of answer a file is. */
export function kindOfAnswer(xml: string): Read<'OrderResponse' | 'DespatchAdvice'> {
  const read = readXml(xml, ['OrderResponse', 'DespatchAdvice']);
  return read.ok ? { ok: true, document: read.document.root as 'OrderResponse' | 'DespatchAdvice' } : read;
}
