import fc from 'fast-check';
import type { OrderResponseMessage, PurchaseOrderMessage } from './documents';
import { misplacedElements } from './element-order';
import { kindOfAnswer, readCancellation, readOrder, readOrderResponse, writeCancellation, writeOrder, writeOrderResponse } from './ubl';
import { readDespatchAdvice } from './ubl-despatch';
import { writeDespatchAdvice } from './ubl-despatch';
import { writeShipmentAdvice } from './ubl-shipment';

const US = { name: 'Marrowby Apiary Supply', code: 'MAR' };
const THEY = { name: 'Tarnbeck Glass', code: 'TARNBECK' };
const ORDER: PurchaseOrderMessage = {
  number: 'P7601',
  issueDay: '2027-03-09',
  note: 'ring the bell & wait <5 minutes',
  currency: 'EUR',
  buyer: US,
  seller: THEY,
  shipTo: 'Marrowby, 14 Combe Lane',
  lines: [
    {
      id: '1',
      quantity: '4320',
      unit: 'EA',
      amount: '1123.20',
      price: '0.26',
      day: '2027-03-15',
      item: { description: 'Hexagonal jar 340 g', buyersCode: 'JAR-340-HX', sellersCode: 'TA1000', gtin: '02000004170003' },
    },
    { id: '2', quantity: '1.5', unit: 'KGM', amount: '3.00', price: '2', day: '2027-03-16', item: { description: 'Wax', buyersCode: 'WAX', sellersCode: '' } },
  ],
};
const RESPONSE: OrderResponseMessage = {
  number: 'R-1',
  issueDay: '2027-03-10',
  order: 'P7601',
  note: 'furnace repair',
  lines: [
    { id: '1', answer: 'changed', quantity: '4000', day: '2027-03-29', price: '0.27', note: 'two weeks later', instead: null },
    { id: '2', answer: 'refused', quantity: null, day: null, price: null, note: 'no longer made', instead: 'TA2000' },
  ],
};
const unit = () => 'EA';

test('what we write is read as it was meant, and stands in the sequence of the standard', () => {
  expect(readOrder(writeOrder(ORDER))).toEqual({ ok: true, document: ORDER });
  expect(misplacedElements(writeOrder(ORDER))).toEqual([]);
  const response = writeOrderResponse(RESPONSE, THEY, US, unit, 'EUR');
  expect(readOrderResponse(response)).toMatchObject({ ok: true, document: RESPONSE });
  expect(kindOfAnswer(response)).toEqual({ ok: true, document: 'OrderResponse' });
  const advice = {
    number: 'D-1',
    issueDay: '2027-03-12',
    order: 'P7601',
    tracking: 'ST-553',
    lines: [
      { orderLine: '1', quantity: '2000', lot: 'L7', expires: '2028-01-31' },
      { orderLine: '2', quantity: '1.5', lot: '', expires: null },
    ],
  };
  expect(readDespatchAdvice(writeDespatchAdvice(advice, THEY, US, unit))).toMatchObject({ ok: true, document: advice });
  const cancel = { number: 'P7601-X', issueDay: '2027-03-10', order: 'P7601', note: 'the customer cancelled', buyer: US, seller: THEY };
  expect(readCancellation(writeCancellation(cancel))).toEqual({ ok: true, document: { order: 'P7601' } });
});

test('a despatch advice to a customer has its cartons, lots and serial numbers in the sequence of the standard, and reads as one of a supplier', () => {
  const item = { description: 'Extractor', buyersCode: 'OUR-1', sellersCode: 'EXT', gtin: '02000004170003' };
  const line = { order: 'PO-7', lineNo: 1, quantity: '2', unit: 'EA', outstanding: '3', item, lot: '', expires: null, serials: [], sscc: '' };
  const xml = writeShipmentAdvice(
    {
      number: '20400-1',
      issueDay: '2027-03-12',
      note: 'the rest follows',
      orders: [{ poNumber: 'PO-7', number: '20400' }],
      tracking: 'BR-1',
      arrives: '2027-03-15',
      grossKilograms: '31.2',
      cartons: [{ sscc: '020000000000000015', kilograms: '31.2', type: 'L' }],
      lines: [
        { ...line, serials: ['S1', 'S2'], sscc: '020000000000000015' },
        { ...line, lineNo: 2, lot: 'L7', expires: '2028-01-31' },
      ],
    },
    US,
    THEY,
  );
  expect(misplacedElements(xml)).toEqual([]);
  expect(xml).toContain('<cbc:ID schemeID="SSCC">020000000000000015</cbc:ID>');
  expect(xml.match(/<cbc:SerialID>S\d<\/cbc:SerialID>/g)).toHaveLength(2);
  expect(readDespatchAdvice(xml)).toMatchObject({
    ok: true,
    document: {
      number: '20400-1',
      order: 'PO-7',
      tracking: 'BR-1',
      lines: [
        { orderLine: '1', quantity: '2', lot: '' },
        { orderLine: '2', quantity: '2', lot: 'L7', expires: '2028-01-31' },
      ],
    },
  });
});

test('any text passes through: names and notes with signs that mean something in XML', () => {
  const text = fc.stringMatching(/^[A-Za-z0-9<>&"'äß%;/]{1,20}$/);
  fc.assert(
    fc.property(text, text, (note, description) => {
      const order = { ...ORDER, note, lines: [{ ...ORDER.lines[0]!, item: { ...ORDER.lines[0]!.item, description } }] };
      expect(readOrder(writeOrder(order))).toEqual({ ok: true, document: order });
    }),
  );
});

/**
 * As another program would write it: other prefixes, parties with addresses and contacts, elements we make no use of.
 * Made after the example instance UBL-OrderResponse-2.1 of OASIS UBL 2.1 (structure from memory, values invented).
 */
const FOREIGN = `<?xml version="1.0" encoding="UTF-8"?>
<n1:OrderResponse xmlns:n1="urn:oasis:names:specification:ubl:schema:xsd:OrderResponse-2" xmlns:a="urn:oasis:names:specification:ubl:schema:xsd:CommonAggregateComponents-2" xmlns:b="urn:oasis:names:specification:ubl:schema:xsd:CommonBasicComponents-2">
  <b:UBLVersionID>2.1</b:UBLVersionID><b:CustomizationID>urn:x</b:CustomizationID>
  <b:ID>4711</b:ID><b:IssueDate>2027-03-10</b:IssueDate><b:IssueTime>09:30:00</b:IssueTime><b:OrderResponseCode listID="UNCL4343">CA</b:OrderResponseCode>
  <b:DocumentCurrencyCode>EUR</b:DocumentCurrencyCode>
  <a:OrderReference><b:ID>P7601</b:ID></a:OrderReference>
  <a:SellerSupplierParty><a:Party><b:EndpointID schemeID="0088">1</b:EndpointID><a:PartyName><b:Name>Tarnbeck Glass</b:Name></a:PartyName>
    <a:PostalAddress><b:StreetName>Furnace Row</b:StreetName></a:PostalAddress><a:Contact><b:Telephone>01632 960999</b:Telephone></a:Contact></a:Party></a:SellerSupplierParty>
  <a:BuyerCustomerParty><a:Party><a:PartyName><b:Name>Marrowby</b:Name></a:PartyName></a:Party></a:BuyerCustomerParty>
  <a:OrderLine><a:LineItem><b:ID>77</b:ID><b:LineStatusCode>3</b:LineStatusCode><b:Quantity unitCode="EA">240</b:Quantity>
    <a:Delivery><a:PromisedDeliveryPeriod><b:StartDate>2027-03-22</b:StartDate><b:EndDate>2027-03-24</b:EndDate></a:PromisedDeliveryPeriod></a:Delivery>
    <a:Item><b:Name>Jar</b:Name></a:Item></a:LineItem><a:OrderLineReference><b:LineID>1</b:LineID></a:OrderLineReference></a:OrderLine>
</n1:OrderResponse>`;

test('an answer that another program wrote is read: by reference to our line, the last day of the period', () => {
  expect(readOrderResponse(FOREIGN)).toEqual({
    ok: true,
    document: {
      number: '4711',
      issueDay: '2027-03-10',
      order: 'P7601',
      whole: 'changed',
      note: '',
      lines: [
        {
          id: '1',
          answer: 'changed',
          quantity: '240',
          unit: 'EA',
          day: '2027-03-24',
          price: null,
          priceFor: null,
          priceUnit: null,
          note: '',
          instead: null,
        },
      ],
    },
  });
});

test.each<[string, (xml: string) => string, string]>([
  ['is not whole', (xml) => xml.slice(0, 900), 'line'],
  [
    'has a document type',
    (xml) => xml.replace('<n1:OrderResponse', '<!DOCTYPE x [<!ENTITY a "aaaa">]><n1:OrderResponse'),
    'the file has a document type, which is not taken',
  ],
  ['is of another kind', (xml) => xml.replaceAll('n1:OrderResponse', 'n1:Invoice'), 'expected OrderResponse, got Invoice'],
  [
    'has another namespace',
    (xml) => xml.replace('xsd:OrderResponse-2', 'xsd:OrderResponse-3'),
    'expected the namespace urn:oasis:names:specification:ubl:schema:xsd:OrderResponse-2',
  ],
  [
    'has an element out of place',
    (xml) => xml.replace(/<b:ID>4711<\/b:ID>(<b:IssueDate>.*?<\/b:IssueDate>)/, '$1<b:ID>4711</b:ID>'),
    'OrderResponse: ID stands behind IssueDate',
  ],
  [
    'has an element that is none',
    (xml) => xml.replace('<b:LineStatusCode>', '<b:Colour>red</b:Colour><b:LineStatusCode>'),
    'OrderResponse/OrderLine/LineItem: Colour does not belong there',
  ],
  ['has a day that is none', (xml) => xml.replace('2027-03-24', '2027-02-30'), 'OrderLine 1: 2027-02-30 is no day, expected YYYY-MM-DD'],
  [
    'has a quantity that is none',
    (xml) => xml.replace('>240<', '>many<'),
    'OrderLine 1: LineItem/Quantity is many, expected a number of at most four decimals',
  ],
  ['answers nothing', (xml) => xml.replace('<a:OrderReference><b:ID>P7601</b:ID></a:OrderReference>', ''), 'OrderResponse: OrderReference/ID is missing'],
])('an answer that %s is refused, and says where', (_, spoil, fault) => {
  const read = readOrderResponse(spoil(FOREIGN));
  expect(read.ok ? [] : read.faults.join('; ')).toContain(fault);
});

test('a file that is nested deeper than any document is refused, whatever its size, and not taken for a fault of ours', () => {
  const deep = (levels: number) => kindOfAnswer(`${'<a>'.repeat(levels)}${'</a>'.repeat(levels)}`);
  for (const levels of [200, 5_000, 120_000])
    expect(deep(levels)).toEqual({ ok: false, faults: ['its elements stand in one another deeper than any document of ours'] });
});
