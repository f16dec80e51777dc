import { routeLabel, sayRoute, whyRoute } from './say-route';
import type { Route, RoutePart } from './route';

// 2027-03-09 is a Tuesday.
const TODAY = '2027-03-09';
const part = (more: Partial<RoutePart>): RoutePart => ({
  kind: 'drop_ship',
  supplier: 'SUP',
  warehouse: null,
  item: null,
  label: 'Drop ship from Tarnbeck',
  quantity: '9',
  buys: '9',
  more: '0',
  leaves: [{ day: '2027-03-17', quantity: more.quantity ?? '9' }],
  shipDay: '2027-03-17',
  deliveryDay: '2027-03-19',
  unitCost: '81.67',
  holds: 81,
  safeDay: '2027-03-19',
  unbought: false,
  obliges: [],
  remarks: [],
  ...more,
});
type Told = Route & { readonly remarks: readonly string[] };
const route = (parts: readonly RoutePart[], more: Partial<Told> = {}): Told => ({
  parts,
  label: routeLabel(parts),
  quantity: '9',
  shipDay: parts[parts.length - 1]!.shipDay,
  deliveryDay: parts[parts.length - 1]!.deliveryDay,
  daysLate: 7,
  meanLate: 7,
  unitCost: '81.67',
  marginAmount: '284.52',
  marginPercent: '27.9',
  shipments: 1,
  holds: 81,
  obliges: [],
  remarks: [],
  possible: true,
  score: 1,
  beaten: false,
  ...more,
});
const transfer = part({
  kind: 'transfer',
  label: 'Transfer from Ostrey Quay',
  quantity: '1',
  leaves: [{ day: '2027-03-11', quantity: '1' }],
  shipDay: '2027-03-11',
});
const other = part({
  kind: 'substitute',
  label: '4 TNK-100-ST in place of 8',
  quantity: '8',
  leaves: [{ day: '2027-03-10', quantity: '8' }],
  shipDay: '2027-03-10',
});
const none = part({ kind: 'cut', label: 'Cancel the shortfall', leaves: [], shipDay: null, deliveryDay: null });
const consent = [{ kind: 'consent' as const, to: 'other_item' as const }];

test('a route of one way is called by it, one of several says how many go which way', () => {
  expect(routeLabel([part({})])).toBe('Drop ship from Tarnbeck');
  expect(routeLabel([other, transfer])).toBe('4 TNK-100-ST in place of 8, transfer 1 from Ostrey Quay');
  expect(routeLabel([transfer, part({ kind: 'cut', label: 'Cancel the shortfall', quantity: '8' })])).toBe('Transfer 1 from Ostrey Quay, cancel 8');
});

test('what is said to the customer names each day once, and when it should be there', () => {
  expect(sayRoute(route([part({})]), TODAY)).toBe(
    'All 9 come straight from the maker and leave on Wednesday the 17th. They should be with you by Friday the 19th.',
  );
  expect(sayRoute(route([other, transfer], { deliveryDay: '2027-03-12' }), TODAY)).toBe(
    'I send 4 TNK-100-ST in place of 8, tomorrow; 1 leaves on Thursday the 11th. They should be with you by Friday the 12th.',
  );
  expect(sayRoute(route([none], { shipDay: null, deliveryDay: null }), TODAY)).toBe('I take the 9 off the order.');
  expect(sayRoute(route([part({ kind: 'backorder', label: 'Backorder: next purchase', unbought: true })]), TODAY)).toBe(
    'The 9 are on backorder: I call you when I have a day.',
  );
});

test('why one would take it: what it is first in, else how far behind the first it is', () => {
  const early = route([other], { shipDay: '2027-03-10', daysLate: 0, marginAmount: '200.00', obliges: consent });
  const drop = route([part({})], { marginAmount: '284.52' });
  const bought = route([part({ kind: 'special_order', label: 'Special order from Tarnbeck', shipDay: '2027-03-19' })], {
    shipDay: '2027-03-19',
    daysLate: 9,
    marginAmount: '260.00',
    remarks: ['due in Thu 18 Mar'],
  });
  const all = [early, drop, bought];
  expect(whyRoute(early, all, 'on_time')).toBe('The earliest. Costs 81.67 each landed.');
  expect(whyRoute(drop, all, 'on_time')).toBe('The most margin and the earliest that needs nobody’s consent. Costs 81.67 each landed.');
  expect(whyRoute(bought, all, 'on_time')).toBe('Option 1 leaves 9 days earlier. Costs 81.67 each landed.');
  expect(whyRoute(bought, [drop, bought], 'cheapest')).toBe('Option 1 brings 24.52 more margin. Costs 81.67 each landed.');
});

test('what is not possible says why', () => {
  expect(whyRoute(route([part({})], { possible: false, remarks: ['sold at least 20 in lots of 20'] }), [], 'on_time')).toBe(
    'Not possible: sold at least 20 in lots of 20.',
  );
});
