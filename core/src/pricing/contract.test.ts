import Decimal from 'decimal.js';
import fc from 'fast-check';
import { lineAmount } from '../money';
import {
  belowFloor,
  inUnit,
  marginOf,
  markUpOf,
  NO_CONTRACTS,
  priceLine,
  priceParts,
  type ContractOffer,
  type ContractQuestion,
  type PriceQuestion,
} from './index';

function offer(id: number, more: Partial<ContractOffer> = {}): ContractOffer {
  return {
    id,
    lineNo: id,
    contract: { id: 10 + id, number: `K100${id}`, name: `contract ${id}` },
    terms: { kind: 'fixed', price: '0.50', ratio: { numerator: 1, denominator: 1 } },
    group: null,
    minimum: null,
    most: null,
    used: '0',
    firstDay: '2027-01-01',
    lastDay: '2027-12-31',
    forShipTo: true,
    ...more,
  };
}

function fixed(price: string): Partial<ContractOffer> {
  return { terms: { kind: 'fixed', price, ratio: { numerator: 1, denominator: 1 } } };
}

function question(offers: readonly ContractOffer[], more: Partial<PriceQuestion> = {}, rules: Partial<ContractQuestion> = {}): PriceQuestion {
  return {
    unit: 'EA',
    quantity: '100',
    ratio: { numerator: 1, denominator: 1 },
    day: '2027-03-09',
    listPrice: '0.80',
    cost: '0.40',
    listBreaks: [],
    customerList: { name: 'shops', breaks: [{ unit: 'EA', from: '1', price: '0.76' }] },
    contracts: { ...NO_CONTRACTS, offers, ...rules },
    pin: null,
    ...more,
  };
}

/** Of each contract line: its number, whether it was chosen, and why. */
function said(asked: PriceQuestion) {
  return priceLine(asked).trail.flatMap((step) => (step.contract ? [[step.contract.line, step.chosen, step.why]] : []));
}

describe('a contract line', () => {
  test('comes before the customer’s list and the list, and the trail says so', () => {
    const { price, source, contractLine, trail } = priceLine(question([offer(1)]));
    expect([price, source, contractLine]).toEqual(['0.5', 'K1001 line 1', 1]);
    expect(trail.map(({ source: from, why }) => [from, why])).toEqual([
      ['K1001 line 1', 'contract line for this item'],
      ['shops', 'K1001 line 1 comes first'],
      ['list', 'no quantity break for this unit'],
      ['list price', 'K1001 line 1 comes first'],
    ]);
  });

  test('is a price for a unit, a percentage off the list with its breaks, or cost plus a percentage', () => {
    const priced = (terms: ContractOffer['terms'], more: Partial<PriceQuestion> = {}) => priceLine(question([offer(1, { terms })], more)).price;
    const tray = { numerator: 24, denominator: 1 };
    expect(priced({ kind: 'fixed', price: '11.40', ratio: tray }, { unit: 'XTY', ratio: tray })).toBe('11.4');
    // 11.40 for 24 is 0.475 for one.
    expect(priced({ kind: 'fixed', price: '11.40', ratio: tray })).toBe('0.475');
    expect(priced({ kind: 'off_list', percent: '12.5' })).toBe('0.7');
    expect(priced({ kind: 'off_list', percent: '10' }, { listBreaks: [{ unit: 'EA', from: '50', price: '0.70' }] })).toBe('0.63');
    expect(priced({ kind: 'cost_plus', percent: '25' })).toBe('0.5');
    expect(priced({ kind: 'cost_plus', percent: '25' }, { unit: 'XTY', ratio: tray })).toBe('12');
  });

  test.each<[string, Partial<ContractOffer>, Partial<ContractQuestion>]>([
    ['begins Wed 10 Mar', { firstDay: '2027-03-10' }, {}],
    ['ended Mon 8 Mar', { lastDay: '2027-03-08' }, {}],
    ['is for another ship-to', { forShipTo: false }, {}],
    ['needs 144 at once', { minimum: '144' }, {}],
    ['all 500 are bought', { most: '500', used: '500' }, {}],
    ['60 left, below the 80 it needs at once', { most: '500', used: '440', minimum: '80' }, {}],
    ['the order names no contract yet', {}, { rules: { choice: 'lowest_price', several: true, mustName: true } }],
    ['the order names another contract', {}, { rules: { choice: 'lowest_price', several: true, mustName: true }, named: 99 }],
    [
      'the customer wants one contract an order, and this order is under another',
      {},
      { rules: { choice: 'lowest_price', several: false, mustName: false }, inUse: [99] },
    ],
  ])('does not hold where it %s', (why, more, rules) => {
    const asked = question([offer(1, more)], {}, rules);
    expect(said(asked)).toEqual([[1, false, why]]);
    expect(priceLine(asked).source).toBe('shops');
  });

  test('holds on its first and on its last day', () => {
    for (const day of ['2027-01-01', '2027-12-31']) expect(priceLine(question([offer(1)], { day })).contractLine).toBe(1);
  });

  test('is not used where less than one of the unit ordered is left of it', () => {
    const ratio = { numerator: 24, denominator: 1 };
    expect(said(question([offer(1, { most: '100', used: '80' })], { unit: 'XTY', ratio, quantity: '2' }))).toEqual([
      [1, false, '20 left, less than one of the unit ordered'],
    ]);
  });
});

describe('of several contract lines that hold', () => {
  // Common practice, no source: an item on two contracts at 0.50 and 0.65; the coordinator may choose either.
  const two = [offer(1, fixed('0.65')), offer(2, { ...fixed('0.50'), lastDay: '2027-12-31' })];

  test('the lowest is preselected, the other may be chosen, whatever is named in the header', () => {
    expect(said(question(two))).toEqual([
      [2, true, 'the lowest of those that hold: choose another, if they ask for it'],
      [1, false, 'holds too; another is chosen'],
    ]);
    expect(priceLine(question(two, { pin: { kind: 'contract', line: 1 } }))).toMatchObject({ price: '0.65', source: 'K1001 line 1' });
    expect(priceLine(question(two, { pin: { kind: 'contract', line: 1 } }, { named: 12 }))).toMatchObject({ source: 'K1001 line 1' });
  });

  test('the one that ends first is, where the customer has it so', () => {
    const rules = { choice: 'ends_first' as const, several: true, mustName: false };
    expect(said(question([two[1]!, { ...two[0]!, lastDay: '2027-03-12' }], {}, { rules }))[0]).toEqual([
      1,
      true,
      'ends first of those that hold: choose another, if they ask for it',
    ]);
  });

  test('that of the contract the order names comes first', () => {
    expect(said(question(two, {}, { named: 11 }))[0]).toEqual([1, true, 'the contract this order names']);
  });

  test('for the item before that for its group, at the same price', () => {
    const [first] = said(question([offer(1, { group: 'jars' }), offer(2)]));
    expect(first![0]).toBe(2);
    expect(said(question([offer(1, { group: 'jars' })]))).toEqual([[1, true, 'contract line for jars']]);
  });

  test('none is taken where they are set aside or the price is set by hand', () => {
    const aside = priceLine(question(two, { pin: { kind: 'list' } }));
    expect([aside.source, aside.contractLine]).toEqual(['shops', null]);
    const byHand = priceLine(question(two, { pin: { kind: 'manual', price: '0.55', reason: 'matches a rival' } }));
    expect(byHand).toMatchObject({ price: '0.55', source: 'set by hand', contractLine: null });
    expect(byHand.trail[0]).toMatchObject({ why: 'matches a rival', chosen: true });
    expect(byHand.trail.filter((step) => step.chosen)).toHaveLength(1);
  });

  test('a chosen one that no longer holds gives way, and says why', () => {
    const ended = [offer(1, { ...fixed('0.40'), lastDay: '2027-03-01' }), offer(2)];
    expect(said(question(ended, { pin: { kind: 'contract', line: 1 } }))).toEqual([
      [2, true, 'contract line for this item'],
      [1, false, 'ended Mon 1 Mar'],
    ]);
  });
});

describe('a quantity that exceeds what is left', () => {
  test('is split: the rest falls to the next source', () => {
    const parts = priceParts(question([offer(1, { most: '500', used: '460' })]));
    expect(parts.map(({ quantity, price }) => [quantity, price.price, price.source])).toEqual([
      ['40', '0.5', 'K1001 line 1'],
      ['60', '0.76', 'shops'],
    ]);
  });

  test('over several contracts, in whole units ordered', () => {
    const ratio = { numerator: 24, denominator: 1 };
    const offers = [offer(1, { ...fixed('0.40'), most: '100' }), offer(2, { ...fixed('0.45'), most: '75' })];
    const parts = priceParts(question(offers, { unit: 'XTY', ratio, quantity: '10' }));
    expect(parts.map(({ quantity, stockQuantity, price }) => [quantity, stockQuantity, price.contractLine])).toEqual([
      ['4', '96', 1],
      ['3', '72', 2],
      ['3', '72', null],
    ]);
  });

  test('but not over a second contract where the customer wants one an order', () => {
    const offers = [offer(1, { ...fixed('0.40'), most: '60' }), offer(2, fixed('0.45'))];
    const parts = priceParts(question(offers, {}, { rules: { choice: 'lowest_price', several: false, mustName: false } }));
    expect(parts.map(({ quantity, price }) => [quantity, price.contractLine])).toEqual([
      ['60', 1],
      ['40', null],
    ]);
  });

  const money = fc.integer({ min: 1, max: 9_999_999 }).map((tenThousandths) => new Decimal(tenThousandths).div(10_000).toFixed());
  const units = fc.constantFrom({ numerator: 1, denominator: 1 }, { numerator: 12, denominator: 1 }, { numerator: 24, denominator: 1 });
  const someOffers = fc
    .array(
      fc.record({
        terms: fc.oneof(
          fc.record({ kind: fc.constant('fixed' as const), price: money, ratio: units }),
          fc.record({ kind: fc.constant('off_list' as const), percent: fc.integer({ min: 0, max: 100 }).map(String) }),
          fc.record({ kind: fc.constant('cost_plus' as const), percent: fc.integer({ min: 0, max: 300 }).map(String) }),
        ),
        most: fc.option(fc.integer({ min: 1, max: 400 }).map(String)),
        usedShare: fc.integer({ min: 0, max: 100 }),
        minimum: fc.option(fc.integer({ min: 1, max: 200 }).map(String)),
        lastDay: fc.constantFrom('2027-03-08', '2027-03-09', '2027-12-31'),
      }),
      { maxLength: 5 },
    )
    .map((rows) =>
      rows.map(({ usedShare, ...row }, at) => offer(at + 1, { ...row, used: row.most ? String(Math.floor((Number(row.most) * usedShare) / 100)) : '7' })),
    );

  test('whatever the contracts: nothing is lost, none passes its most, and one source is chosen for each part', () => {
    fc.assert(
      fc.property(someOffers, units, fc.integer({ min: 1, max: 60 }), fc.boolean(), (offers, ratio, quantity, several) => {
        const asked = question(offers, { ratio, quantity: String(quantity) }, { rules: { choice: 'lowest_price', several, mustName: false } });
        const parts = priceParts(asked);
        expect(parts.reduce((total, part) => total + Number(part.quantity), 0)).toBe(quantity);
        for (const { id, most, used } of offers) {
          const bought = parts.filter((part) => part.price.contractLine === id).reduce((total, part) => total + Number(part.stockQuantity), 0);
          if (most !== null && bought > 0) expect(Number(used) + bought).toBeLessThanOrEqual(Number(most));
        }
        for (const { price } of parts) expect(price.trail.filter((step) => step.chosen)).toHaveLength(1);
        const contracts = new Set(parts.flatMap((part) => part.price.contractLine ?? []));
        if (!several) expect(contracts.size).toBeLessThanOrEqual(1);
      }),
    );
  });

  test('an order of n cases costs what n × 12 each cost, where the price says so', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 99_999 }), fc.integer({ min: 1, max: 500 }), (cents, cases) => {
        // A price in whole cents is exact in both units.
        const terms = { kind: 'fixed' as const, price: new Decimal(cents).div(100).toFixed(), ratio: { numerator: 1, denominator: 1 } };
        const amount = (quantity: string, ratio: PriceQuestion['ratio']) => {
          const { price } = priceLine(question([offer(1, { terms })], { ratio, quantity }));
          return lineAmount(quantity, price, 'EUR');
        };
        expect(amount(String(cases), { numerator: 12, denominator: 1 })).toBe(amount(String(cases * 12), { numerator: 1, denominator: 1 }));
      }),
    );
  });

  test('prices are those of a decimal library, four decimals, half away from zero', () => {
    fc.assert(
      fc.property(money, money, fc.integer({ min: 0, max: 10_000 }), units, units, (list, cost, basisPoints, sold, contracted) => {
        const percent = new Decimal(basisPoints).div(100);
        const priced = (terms: ContractOffer['terms']) =>
          priceLine(question([offer(1, { terms })], { listPrice: list, cost, ratio: sold, customerList: null })).price;
        const expected = (value: Decimal) => value.toDecimalPlaces(4, Decimal.ROUND_HALF_UP).toFixed();
        const perUnit = new Decimal(list).times(sold.numerator);
        expect(priced({ kind: 'off_list', percent: percent.toFixed() })).toBe(expected(perUnit.times(new Decimal(100).minus(percent)).div(100)));
        expect(priced({ kind: 'cost_plus', percent: percent.toFixed() })).toBe(
          expected(new Decimal(cost).times(percent.plus(100)).times(sold.numerator).div(100)),
        );
        // A fixed price of another unit needs as many decimals as its amount does; where four say it, no more.
        const fixed = new Decimal(cost).times(sold.numerator).div(contracted.numerator);
        const short = fixed.toDecimalPlaces(4).times(contracted.numerator).equals(new Decimal(cost).times(sold.numerator));
        expect(priced({ kind: 'fixed', price: cost, ratio: contracted })).toBe(fixed.toDecimalPlaces(short ? 4 : 12, Decimal.ROUND_UP).toFixed());
      }),
    );
  });
});

describe('margin', () => {
  // Common practice: margin 25 % = mark-up 33⅓ %; margin 20 % = mark-up 25 %; margin 50 % = mark-up 100 %.
  test.each([
    ['25', '33.33'],
    ['20', '25'],
    ['50', '100'],
  ])('of %s %% is a mark-up of %s %%', (margin, markUp) => {
    expect(markUpOf(margin)).toBe(markUp);
    expect(Number(marginOf(markUp))).toBeCloseTo(Number(margin), 2);
  });

  test('at the floor is not below it', () => {
    expect(belowFloor('100', '88', '12')).toBe(false);
    expect(belowFloor('100', '88.01', '12')).toBe(true);
    // What is given away leaves no margin, whatever it cost.
    expect(belowFloor('0', '0', '12')).toBe(true);
    expect(belowFloor('0', '0.31', '12')).toBe(true);
  });

  test('a price is the same in another unit of the item', () => {
    expect(inUnit('11.40', { numerator: 24, denominator: 1 }, { numerator: 1, denominator: 1 })).toBe('0.475');
    expect(inUnit('0.475', { numerator: 1, denominator: 1 }, { numerator: 24, denominator: 1 })).toBe('11.4');
  });
});
