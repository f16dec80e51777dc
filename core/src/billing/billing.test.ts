import fc from 'fast-check';
import { compareDecimal, lineAmount, minus, plus, sum, type Decimal } from '../money';
import { billLines, type BilledShipment, type ShippedLine } from './bill-lines';
import { decideCredit, type CreditableLine } from './credit';
import { creditorReference, isCreditorReference, isIban } from './mod97';
import { discountOn, proposeSettlement, settlementFaults, type OpenInvoice } from './settle';
import { taxFor } from './tax';
import { daysSalesOutstanding, discountUntil, dueDay, payableInWords, termsInWords, yearlyCostOfDiscount } from './terms';
import { invoiceTotals, type TaxedLine } from './totals';

const standard = { category: 'S', percent: '20', reason: '' } as const;
const shipped = (more: Partial<ShippedLine> = {}): ShippedLine => ({
  line: 1,
  lineNo: 1,
  item: 'JAR',
  description: 'Jar',
  quantity: '36',
  unit: 'DZN',
  stockingUnit: 'EA',
  numerator: 12,
  denominator: 1,
  price: '4.08',
  percent: '20',
  exemption: '',
  shipToCountry: 'GB',
  ...more,
});
const bill = (lines: readonly ShippedLine[], freight: string | null = null) =>
  billLines([{ shipment: 7, order: 3, freight, lines } satisfies BilledShipment], 'GB', 'EUR').map((line) => [
    line.text,
    line.quantity,
    line.unit,
    line.price,
    line.amount,
  ]);

describe('what is billed', () => {
  // Common practice, no source: 24 each and 3 dozen on one order bill as 24 each and 3 dozen.
  test('goods in the unit ordered, then the freight of the shipment', () => {
    expect(bill([shipped({ quantity: '24', unit: 'EA', numerator: 1, price: '0.34' }), shipped()], '12.5')).toEqual([
      ['Jar', '24', 'EA', '0.34', '8.16'],
      ['Jar', '3', 'DZN', '4.08', '12.24'],
      ['Freight', '1', 'C62', '12.5', '12.5'],
    ]);
    expect(bill([shipped()], '0')).toHaveLength(1);
  });

  test('a short fraction of the unit ordered is billed as it is; what has none is split into whole units and single ones', () => {
    expect(bill([shipped({ quantity: '30' })])).toEqual([['Jar', '2.5', 'DZN', '4.08', '10.20']]);
    expect(bill([shipped({ quantity: '29' })])).toEqual([
      ['Jar', '2', 'DZN', '4.08', '8.16'],
      ['Jar', '5', 'EA', '0.34', '1.70'],
    ]);
    expect(bill([shipped({ quantity: '5', price: '1' })])).toEqual([['Jar', '5', 'EA', '0.083333333334', '0.42']]);
  });

  test('every piece that left is billed, at the price of its unit to the cent', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 500 }), fc.integer({ min: 2, max: 48 }), fc.integer({ min: 1, max: 99_999 }), (quantity, numerator, cents) => {
        const price = (cents / 100).toFixed(2);
        const lines = billLines([{ shipment: 1, order: 1, freight: null, lines: [shipped({ quantity: String(quantity), numerator, price })] }], 'GB', 'EUR');
        const pieces = lines.reduce((all, line) => all + Number(line.quantity) * (line.unit === 'EA' ? 1 : numerator), 0);
        expect(pieces).toBeCloseTo(quantity, 6);
        const exact = (quantity * cents) / numerator / 100;
        expect(Math.abs(Number(sum(lines.map((line) => line.amount))) - exact)).toBeLessThanOrEqual(0.005 * lines.length + 1e-9);
      }),
    );
  });

  test('freight is taxed as the dearest of its goods', () => {
    const lines = billLines([{ shipment: 1, order: 1, freight: '5', lines: [shipped({ percent: '0' }), shipped({ percent: '20' })] }], 'GB', 'EUR');
    expect(lines.map((line) => [line.kind, line.category, line.percent])).toEqual([
      ['goods', 'Z', '0'],
      ['goods', 'S', '20'],
      ['freight', 'S', '20'],
    ]);
  });
});

// Common practice, no source.
test.each([
  [{ percent: '20', exemption: '', shipToCountry: 'GB' }, 'S', '20'],
  [{ percent: '0', exemption: '', shipToCountry: 'GB' }, 'Z', '0'],
  [{ percent: '20', exemption: 'Charity, certificate 12', shipToCountry: 'GB' }, 'E', '0'],
  [{ percent: '20', exemption: '', shipToCountry: 'NO' }, 'G', '0'],
])('tax of %j is %s at %s per cent', (facts, category, percent) => {
  expect(taxFor({ ...facts, firmCountry: 'GB' })).toMatchObject({ category, percent });
});

describe('what an invoice comes to', () => {
  // EN 16931-1: tax of a category is its base times the rate, rounded once (from memory).
  test('tax is on the sum of a rate, not line by line', () => {
    const lines = Array.from({ length: 3 }, (): TaxedLine => ({ ...standard, amount: '0.33' }));
    expect(invoiceTotals([...lines, { category: 'Z', percent: '0', reason: '', amount: '10.00' }], 'EUR')).toEqual({
      net: '10.99',
      tax: '0.20',
      total: '11.19',
      taxes: [
        { ...standard, base: '0.99', tax: '0.20' },
        { category: 'Z', percent: '0', reason: '', base: '10.00', tax: '0.00' },
      ],
    });
  });

  // ISO 4217: the yen has no minor unit, the dinar of Bahrain three digits (from memory).
  test('in currencies with no and with three digits', () => {
    expect(invoiceTotals([{ ...standard, percent: '10', amount: '105' }], 'JPY')).toMatchObject({ tax: '11', total: '116' });
    expect(invoiceTotals([{ ...standard, percent: '5', amount: '1.111' }], 'BHD')).toMatchObject({ tax: '0.056', total: '1.167' });
  });
});

describe('when it is due', () => {
  test('so many days after its day or after its month; the discount until its own day', () => {
    const net = { kind: 'net', days: 30, discountPercent: '2', discountDays: 10 } as const;
    expect([dueDay('2027-03-09', net), discountUntil('2027-03-09', net)]).toEqual(['2027-04-08', '2027-03-19']);
    expect(dueDay('2027-02-09', { kind: 'month_end', days: 10 })).toBe('2027-03-10');
    expect(dueDay('2028-02-01', { kind: 'month_end', days: 0 })).toBe('2028-02-29');
    expect(dueDay('2027-12-31', { kind: 'month_end', days: 1 })).toBe('2028-01-01');
    expect(discountUntil('2027-03-09', { ...net, discountPercent: '0' })).toBeNull();
    expect(termsInWords(net)).toBe('30 days net, 2 % within 10 days');
    expect(payableInWords({ total: '120.00', dueDay: '2027-04-08', discountUntil: '2027-03-19', discountPercent: '2' }, 'EUR', '2027-03-09')).toBe(
      'Please pay 120.00 EUR by Thu 8 Apr, or 117.60 EUR by Fri 19 Mar (2 % discount).',
    );
  });

  // The handbook's 2/10 net 30: 37.2 per cent a year of 365 days, 36.7 of 360 (from memory).
  test('what it costs not to take a discount', () => {
    expect([yearlyCostOfDiscount(2, 10, 30), yearlyCostOfDiscount(2, 10, 30, 360)]).toEqual(['37.2', '36.7']);
  });

  // 1,000 owed of 9,000 billed in 90 days is ten days: the common handbook formula, from memory.
  test('days sales outstanding', () => {
    expect([daysSalesOutstanding('1000', '9000', 90), daysSalesOutstanding('5', '0', 90)]).toEqual(['10', null]);
  });
});

describe('check digits', () => {
  // ISO 11649 and ISO 13616: their published examples (from memory; the rule proves them).
  test('references of creditors and account numbers', () => {
    expect(creditorReference('539007547034')).toBe('RF18539007547034');
    expect(isCreditorReference('RF18 5390 0754 7034')).toBe(true);
    expect(isCreditorReference('RF19 5390 0754 7034')).toBe(false);
    expect(['GB82 WEST 1234 5698 7654 32', 'DE89 3704 0044 0532 0130 00', 'GB82 WEST 1234 5698 7654 33'].map(isIban)).toEqual([true, true, false]);
  });

  test('every reference that is made is one, and a changed digit is seen', () => {
    fc.assert(
      fc.property(fc.stringMatching(/^[0-9]{1,18}$/), fc.nat(), (text, at) => {
        const made = creditorReference(text);
        expect(isCreditorReference(made)).toBe(true);
        const place = 4 + (at % text.length);
        const other = made[place] === '7' ? '8' : '7';
        expect(isCreditorReference(made.slice(0, place) + other + made.slice(place + 1))).toBe(false);
      }),
    );
  });
});

describe('a credit note', () => {
  const line: CreditableLine = { ...standard, id: 5, lineNo: 1, text: 'Jar', quantity: '3', unit: 'DZN', price: '3.333', amount: '10.00', credited: '0' };
  test('is at the price and tax of the invoice, of all of a line to the cent, or of its price', () => {
    expect(decideCredit([line], [{ line: 5, quantity: '3' }], 'EUR')).toMatchObject({ ok: true, lines: [{ amount: '10.00', percent: '20' }] });
    expect(decideCredit([line], [{ line: 5, quantity: '1' }], 'EUR')).toMatchObject({ ok: true, lines: [{ amount: '3.33' }] });
    expect(decideCredit([line], [{ line: 5, quantity: '3', perUnit: '0.5' }], 'EUR')).toMatchObject({ ok: true, lines: [{ amount: '1.50', price: '0.5' }] });
  });

  test.each([
    [[{ line: 6, quantity: '1' }], 'lines[0].line', 'the invoice has no such line'],
    [[{ line: 5, quantity: '4' }], 'lines[0].quantity', '4 is more than the 3 billed on line 1'],
    [[{ line: 5, quantity: '0' }], 'lines[0].quantity', 'expected a quantity above 0, got 0'],
    [[{ line: 5, quantity: '1', perUnit: '4' }], 'lines[0].perUnit', '4 is more than the price of 3.333'],
    [
      [
        { line: 5, quantity: '1' },
        { line: 5, quantity: '1' },
      ],
      'lines[1].line',
      'line 1 stands twice',
    ],
    [[], 'lines', 'expected at least one line'],
  ])('%j is refused at %s', (wishes, field, message) => {
    expect(decideCredit([line], wishes, 'EUR')).toEqual({ ok: false, faults: [{ field, message }] });
  });

  test('never above what is left of what was billed', () => {
    fc.assert(
      fc.property(
        fc.array(fc.record({ quantity: fc.integer({ min: 1, max: 6 }), perUnit: fc.option(fc.integer({ min: 1, max: 400 })) }), { maxLength: 8 }),
        (wishes) => {
          let credited: Decimal = '0';
          for (const { quantity, perUnit } of wishes) {
            const decided = decideCredit(
              [{ ...line, credited }],
              [{ line: 5, quantity: String(quantity), ...(perUnit === null ? {} : { perUnit: (perUnit / 100).toFixed(2) }) }],
              'EUR',
            );
            if (decided.ok) credited = plus(credited, decided.lines[0]!.amount);
          }
          expect(compareDecimal(credited, line.amount)).toBeLessThanOrEqual(0);
        },
      ),
    );
  });
});

describe('where a payment goes', () => {
  const invoice = (id: number, open: string, dueDay: string, more: Partial<OpenInvoice> = {}): OpenInvoice => ({
    id,
    number: `I${id}`,
    total: open,
    open,
    dueDay,
    discountUntil: null,
    discountPercent: '0',
    ...more,
  });
  const none = () => '0';
  const three = [invoice(1, '50.00', '2027-03-20'), invoice(2, '30.00', '2027-03-01'), invoice(3, '20.00', '2027-03-05')];

  test('to the invoice it fits to the cent, else to those due first; what is over stays on account', () => {
    expect(proposeSettlement('50.00', three, none).settled).toEqual([{ invoice: 1, amount: '50.00', discount: '0' }]);
    expect(proposeSettlement('40.00', three, none)).toEqual({
      settled: [
        { invoice: 2, amount: '30.00', discount: '0' },
        { invoice: 3, amount: '10', discount: '0' },
      ],
      onAccount: '0',
    });
    expect(proposeSettlement('120.00', three, none).onAccount).toBe('20');
  });

  test('a discount is taken in time, a few days late too, and not after something was paid', () => {
    const early = invoice(1, '100.00', '2027-04-08', { discountUntil: '2027-03-19', discountPercent: '2' });
    const grace = (until: string, day: string) => day <= until || (day === '2027-03-20' && until === '2027-03-19');
    expect(['2027-03-19', '2027-03-20', '2027-03-25'].map((day) => discountOn(early, day, 'EUR', grace))).toEqual(['2.00', '2.00', '0']);
    expect(discountOn({ ...early, open: '60.00' }, '2027-03-10', 'EUR', grace)).toBe('0');
    expect(proposeSettlement('98.00', [early, ...three], (row) => discountOn(row, '2027-03-19', 'EUR', grace)).settled).toEqual([
      { invoice: 1, amount: '98.00', discount: '2.00' },
    ]);
  });

  test.each([
    [[{ invoice: 9, amount: '1', discount: '0' }], 'settled[0].invoice'],
    [[{ invoice: 1, amount: '51', discount: '0' }], 'settled[0].amount'],
    [[{ invoice: 1, amount: '0', discount: '0' }], 'settled[0].amount'],
    [[{ invoice: 1, amount: '10', discount: '1' }], 'settled[0].discount'],
    [
      [
        { invoice: 1, amount: '50', discount: '0' },
        { invoice: 2, amount: '30', discount: '0' },
      ],
      'settled',
    ],
  ])('%j is refused at %s', (settled, field) => {
    expect(settlementFaults('60', three, settled, none).map((fault) => fault.field)).toEqual([field]);
  });

  test('nothing is paid above what is open, and all of the payment goes somewhere', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 20_000 }), fc.array(fc.integer({ min: 1, max: 9_000 }), { maxLength: 6 }), (cents, opens) => {
        const amount = (cents / 100).toFixed(2);
        const invoices = opens.map((open, at) => invoice(at, (open / 100).toFixed(2), `2027-03-0${1 + (at % 9)}`));
        const { settled, onAccount } = proposeSettlement(amount, invoices, none);
        expect(settlementFaults(amount, invoices, settled, none)).toEqual([]);
        expect(minus(plus(sum(settled.map((row) => row.amount)), onAccount), amount)).toBe('0');
      }),
    );
  });
});

test('a line is quantity times price, as it is told', () => {
  expect(lineAmount('2.5', '4.08', 'EUR')).toBe('10.20');
});
