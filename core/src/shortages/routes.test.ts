import { ArrivalOdds } from '../supply';
import { asksCustomer, chosenRoute, POLICIES, routesFor, type Route, type Shortage, type SupplierOffer } from './index';

const halewood: SupplierOffer = {
  supplier: 'HAL',
  name: 'Halewood',
  cost: '0.60',
  leadDays: 3,
  minimum: '10',
  multiple: '10',
  dropShips: true,
  dropShipFee: '6.00',
};
const warehouse = { workdays: [1, 2, 3, 4, 5], closed: ['2027-03-15'], receivingDays: 1 };
const shortage: Shortage = {
  now: '2027-03-09T09:30', // a Tuesday
  quantity: '60',
  requested: '2027-03-10',
  warehouse,
  transitDays: 1,
  unitPrice: '1.00',
  unitCost: '0.58',
  currency: 'EUR',
  inbound: { days: [{ day: '2027-03-18', quantity: '60' }], uncovered: '0' },
  offers: [halewood],
};

/** The one route of a kind that stands alone. */
function only(routes: readonly Route[], kind: Route['parts'][number]['kind'], who?: string): Route {
  const found = routes.filter(({ parts: [part, ...more] }) => more.length === 0 && part!.kind === kind && (who === undefined || part!.supplier === who));
  expect(found).toHaveLength(1);
  return found[0]!;
}

describe('each way alone', () => {
  test('has its days by both calendars, its landed cost and what it leaves of the margin', () => {
    const routes = routesFor(shortage);
    expect(only(routes, 'drop_ship')).toMatchObject({
      shipDay: '2027-03-12', // three of the supplier's working days
      deliveryDay: '2027-03-15', // the carrier works on the day our warehouse is closed
      daysLate: 2,
      unitCost: '0.7', // 6.00 for 60
      marginPercent: '30.0',
      marginAmount: '18.00',
      shipments: 1,
    });
    // Friday the 12th in, put away by Tuesday: the warehouse is closed on the 15th.
    expect(only(routes, 'special_order')).toMatchObject({ shipDay: '2027-03-16', deliveryDay: '2027-03-17', daysLate: 6, marginAmount: '24.00' });
    expect(only(routes, 'backorder')).toMatchObject({ shipDay: '2027-03-18', deliveryDay: '2027-03-19', daysLate: 8, marginAmount: '25.20' });
    expect(only(routes, 'cut')).toMatchObject({ shipDay: null, marginAmount: '0.00', marginPercent: null, shipments: 0, possible: true });
  });

  test('where nothing is due, waiting means the next purchase; without a supplier no day is given, and it cannot be chosen', () => {
    const nothing = { ...shortage, inbound: { days: [], uncovered: '60' } };
    expect(only(routesFor(nothing), 'backorder')).toMatchObject({ label: 'Backorder: next purchase', shipDay: '2027-03-16', possible: true });
    const routes = routesFor({ ...nothing, offers: [] });
    expect(only(routes, 'backorder')).toMatchObject({ shipDay: null, daysLate: null, possible: false });
  });

  test('a transfer gives what nobody is promised there, and costs the way', () => {
    const transfers = [{ warehouse: 'QUI', name: 'Quillhaven', free: '60', leaves: '2027-03-09', transitDays: 1, unitCost: '0.05' }];
    const route = only(routesFor({ ...shortage, transfers }), 'transfer');
    // There on the 10th, put away on the 11th.
    expect(route).toMatchObject({ shipDay: '2027-03-11', daysLate: 1, unitCost: '0.63', possible: true });
    const [less] = [only(routesFor({ ...shortage, quantity: '61', transfers }), 'transfer')];
    expect(less.possible).toBe(false);
    expect(less.parts[0]!.remarks[0]).toEqual({ kind: 'free_there', warehouse: 'Quillhaven', free: '60', enough: false });
  });

  test('what is assembled is whole', () => {
    const assembly = { most: '70', done: '2027-03-11', unitCost: '0.50', components: '2 sides, 1 lid' };
    expect(only(routesFor({ ...shortage, assembly }), 'assemble')).toMatchObject({ shipDay: '2027-03-12', possible: true, marginAmount: '30.00' });
    expect(only(routesFor({ ...shortage, assembly, quantity: '60.5' }), 'assemble').possible).toBe(false);
    expect(only(routesFor({ ...shortage, assembly: { ...assembly, most: '59' } }), 'assemble').possible).toBe(false);
  });

  test('another item has its own price, and the customer is asked', () => {
    const days = [
      { day: '2027-03-10', quantity: '20' },
      { day: '2027-03-11', quantity: '50' },
    ];
    const substitutes = [{ item: 'JAR-B', description: 'Jar B', successor: false, ratio: '1', days, unitPrice: '1.20', unitCost: '0.70' }];
    const route = only(routesFor({ ...shortage, substitutes }), 'substitute');
    expect(route).toMatchObject({ shipDay: '2027-03-11', shipments: 2, marginAmount: '30.00' });
    expect(route.parts[0]!.leaves).toEqual([days[0], { day: '2027-03-11', quantity: '40' }]);
    expect(asksCustomer(route)).toBe(true);
  });

  test('a customer who wants to be asked about later days is asked about those alone', () => {
    const asked = routesFor({ ...shortage, asksWhenLate: true });
    expect(asksCustomer(only(asked, 'backorder'))).toBe(true);
    expect(asksCustomer(only(routesFor({ ...shortage, asksWhenLate: true, requested: '2027-03-19' }), 'backorder'))).toBe(false);
    expect(asksCustomer(only(routesFor(shortage), 'backorder'))).toBe(false);
  });
});

describe('a supplier who is late with the same goods', () => {
  const late = { ...shortage, offers: [{ ...halewood, notBefore: '2027-03-19' }] };

  test('does not bring what is ordered today before what they owe, and that is said', () => {
    expect(only(routesFor(late), 'special_order')).toMatchObject({ shipDay: '2027-03-22' });
    expect(only(routesFor(late), 'drop_ship')).toMatchObject({ shipDay: '2027-03-19' });
    for (const kind of ['special_order', 'drop_ship'] as const)
      expect(only(routesFor(late), kind).parts[0]!.remarks).toContainEqual({ kind: 'owed_before', supplier: 'Halewood' });
  });

  test('is no later for it than their lead time where what they owe comes first', () => {
    const offers = [{ ...halewood, notBefore: '2027-03-10' }];
    expect(routesFor({ ...shortage, offers }).map((route) => route.shipDay)).toEqual(routesFor(shortage).map((route) => route.shipDay));
  });

  test('what is waited for costs what it was bought for, where that is known', () => {
    const inbound = { days: [{ day: '2027-03-18', quantity: '60', unitCost: '0.70' }], uncovered: '0' };
    expect(only(routesFor({ ...shortage, inbound }), 'backorder')).toMatchObject({ marginAmount: '18.00' });
  });
});

describe('what a supplier wants', () => {
  test('a drop shipment is not possible in another quantity than they deal in, and is told without being choosable', () => {
    const drop = only(routesFor({ ...shortage, quantity: '61' }), 'drop_ship');
    expect(drop.possible).toBe(false);
    expect(drop.parts[0]!.remarks).toContainEqual(expect.objectContaining({ kind: 'lots', multiple: '10' }));
  });

  test('what is bought beyond the need is said, and what cannot be given back, and an order that is too small', () => {
    const offers = [{ ...halewood, minimumValue: '100', returnable: false }];
    const special = only(routesFor({ ...shortage, quantity: '61', offers }), 'special_order');
    expect(special.parts[0]!.buys).toBe('70');
    expect(special.obliges).toEqual([
      { kind: 'surplus', buys: '70', surplus: '9', wanted: false },
      { kind: 'below_minimum', supplier: 'Halewood', minimum: '100', comes: '42.00' },
      { kind: 'not_returnable', supplier: 'Halewood' },
    ]);
  });

  test('a draft that is joined has met minimum and lot already, shares its freight and lowers the price by its quantity', () => {
    const offer = { ...halewood, freight: '12.00', breaks: [{ from: '100', cost: '0.50' }] };
    expect(only(routesFor({ ...shortage, offers: [offer] }), 'special_order')).toMatchObject({ unitCost: '0.8' }); // 0.60 + 12 / 60
    const draft = { number: 'P1', value: '24.00', needed: '34', bought: '40' };
    const joined = only(routesFor({ ...shortage, offers: [{ ...offer, draft }] }), 'special_order');
    // 94 are needed, 100 bought: 60 more, at the break; 30 of then 54 worth of goods bear 30 / 54 of the freight.
    expect(joined.parts[0]!.buys).toBe('60');
    expect(joined.unitCost).toBe('0.6111');
    const spare = only(routesFor({ ...shortage, quantity: '6', offers: [{ ...offer, draft }] }), 'special_order');
    expect(spare.parts[0]!.buys).toBe('0');
  });

  test('freight is free from a value on', () => {
    const offers = [{ ...halewood, freight: '12.00', freightFreeFrom: '36.00' }];
    expect(only(routesFor({ ...shortage, offers }), 'special_order').unitCost).toBe('0.6');
  });

  test('a day that must hold nine times in ten counts with how late they come', () => {
    const odds = new ArrivalOdds([0, 0, 0, 0, 0, 0, 0, 0, 0, 4, 4], []);
    const offers = [{ ...halewood, odds }];
    expect(only(routesFor({ ...shortage, offers }), 'special_order')).toMatchObject({ shipDay: '2027-03-16', holds: 82 });
    // Due on the 12th, counted from the 16th: put away on the 17th.
    expect(only(routesFor({ ...shortage, offers, confidence: 0.9 }), 'special_order')).toMatchObject({ shipDay: '2027-03-17', holds: 100 });
  });
});

describe('ranking', () => {
  const transfers = [{ warehouse: 'QUI', name: 'Quillhaven', free: '60', leaves: '2027-03-09', transitDays: 1, unitCost: '0.10' }];

  test('on time first prefers the early day, cheapest the margin', () => {
    expect(routesFor({ ...shortage, transfers }, POLICIES.on_time)[0]!.parts[0]!.kind).toBe('transfer');
    expect(routesFor({ ...shortage, transfers }, POLICIES.cheapest)[0]!.parts[0]!.kind).toBe('backorder');
  });

  test('what is no better in day, money or consignments than another is one nobody would choose', () => {
    const dear = { ...halewood, supplier: 'DEA', name: 'Dear', cost: '0.90', dropShips: false };
    const routes = routesFor({ ...shortage, offers: [halewood, dear] });
    expect(only(routes, 'special_order', 'DEA').beaten).toBe(true);
    expect(only(routes, 'special_order', 'HAL').beaten).toBe(false);
    expect(only(routes, 'cut').beaten).toBe(false);
  });

  test('part now and part later is shared out where that is worth another consignment, and is not where it is whole', () => {
    const some = [{ ...transfers[0]!, free: '45', unitCost: '0' }];
    const dearer = { ...shortage, unitPrice: '10', unitCost: '5.8', offers: [{ ...halewood, cost: '6' }], transfers: some };
    const [best] = routesFor(dearer);
    expect(best!.parts.map((part) => [part.kind, part.quantity])).toEqual([
      ['transfer', '40'],
      ['drop_ship', '20'],
    ]);
    const whole = routesFor({ ...dearer, whole: true });
    expect(whole.filter((route) => route.parts.length > 1 && route.parts.some((part) => part.kind === 'drop_ship'))).toEqual([]);
    for (const route of whole) expect(route.shipments).toBeLessThanOrEqual(1);
  });
});

describe('what was chosen', () => {
  const transfers = [{ warehouse: 'QUI', name: 'Quillhaven', free: '40', leaves: '2027-03-09', transitDays: 1, unitCost: '0.05' }];

  test('is the same route as the one that was offered', () => {
    const offered = only(routesFor({ ...shortage, transfers }), 'special_order');
    expect(chosenRoute({ ...shortage, transfers }, [{ kind: 'special_order', supplier: 'HAL', quantity: '60' }])).toEqual({
      ok: true,
      route: { ...offered, beaten: false },
    });
    const split = chosenRoute({ ...shortage, transfers }, [
      { kind: 'transfer', warehouse: 'QUI', quantity: '40' },
      { kind: 'drop_ship', supplier: 'HAL', quantity: '20' },
    ]);
    expect(split).toMatchObject({ ok: true, route: { shipments: 2, quantity: '60' } });
  });

  test('is refused where it is not there, or cannot give so much, with the part at fault', () => {
    const ask = (...parts: Parameters<typeof chosenRoute>[1]) => chosenRoute({ ...shortage, transfers }, parts);
    expect(ask({ kind: 'transfer', warehouse: 'OST', quantity: '5' })).toMatchObject({
      ok: false,
      at: 0,
      field: 'kind',
      why: expect.stringContaining('possible: QUI') as string,
    });
    expect(ask({ kind: 'cut', quantity: '5' }, { kind: 'transfer', warehouse: 'QUI', quantity: '41' })).toMatchObject({ ok: false, at: 1, field: 'quantity' });
    expect(ask({ kind: 'assemble', quantity: '5' })).toMatchObject({ ok: false, why: expect.stringContaining('nobody can do it') as string });
  });

  test('cutting is never first where something else is possible, however little it leaves', () => {
    // Bought in lots of 500 for 19, late, with a loss: the customer is served all the same.
    const dear = { ...shortage, quantity: '19', mayWait: false, offers: [{ ...halewood, cost: '1.40', minimum: '500', multiple: '500', dropShips: false }] };
    for (const policy of Object.values(POLICIES)) {
      const routes = routesFor(dear, policy).filter((route) => route.possible);
      expect(routes[0]!.parts.map((part) => part.kind)).toEqual(['special_order']);
      expect(routes.at(-1)!.parts.some((part) => part.kind === 'cut')).toBe(true);
    }
    expect(routesFor({ ...dear, offers: [] }).find((route) => route.possible)!.parts[0]!.kind).toBe('cut');
  });

  test('waiting for the next purchase carries the freight, the lots and the surplus of that purchase', () => {
    const lots = { ...shortage, quantity: '12', inbound: { days: [], uncovered: '12' }, offers: [{ ...halewood, freight: '9.00', dropShips: false }] };
    const routes = routesFor(lots);
    const [wait, buy] = [only(routes, 'backorder'), only(routes, 'special_order')];
    expect(wait.unitCost).toBe(buy.unitCost);
    expect(wait.score).toBe(buy.score);
    expect(wait.parts[0]!.remarks).toEqual([
      { kind: 'next_purchase', quantity: '12', day: '2027-03-16', supplier: 'Halewood' },
      { kind: 'buys_more', buys: '20', surplus: '8' },
      // Of 9.00, what falls on 12 of 20.
      { kind: 'freight', amount: '5.40' },
    ]);
  });
});
