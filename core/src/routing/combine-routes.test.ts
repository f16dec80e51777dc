import { sampleStock } from '../book/sample-rows';
import { combineRoutes } from './combine-routes';
import { facts, routedLine } from './sample-facts';
import type { ItemOffer } from './routing-facts';

/** A draft of lines of ten JAR each that have nothing at MAR, asked for on the day itself. */
const lines = (count: number, more: object = {}) =>
  Array.from({ length: count }, (_, at) => routedLine(at + 1, { state: 'draft', number: null, line_no: at + 1, ...more }));
const NOTHING = new Map<number, string>();

/** Who sends it to the customer within a day, dearer than what lies at the other warehouse. */
const offer = (supplier: string, more: Partial<ItemOffer> = {}): ItemOffer => ({
  item: 'JAR',
  supplier,
  name: supplier,
  cost: '2.2',
  breaks: [],
  minimum: '1',
  multiple: '1',
  leadDays: 1,
  transitDays: 0,
  workdays: [1, 2, 3, 4, 5],
  closed: [],
  orderDays: [1, 2, 3, 4, 5],
  cutoff: null,
  dropShips: true,
  dropShipFee: '0',
  freight: '0',
  freightFreeFrom: null,
  minimumValue: '0',
  returnable: true,
  notBefore: null,
  draft: null,
  ...more,
});

test('nothing where no line is short, or what is short has a route already', () => {
  const known = facts(lines(1), { stock: [sampleStock('12', { warehouse: 'MAR' })] });
  expect(combineRoutes(known, NOTHING)).toEqual([]);
  const short = facts(lines(1), {});
  expect(combineRoutes(short, new Map([[1, '10']]))).toEqual([]);
});

test('each line chooses from what those before it leave', () => {
  const known = facts(lines(2), { stock: [sampleStock('12', { warehouse: 'QUI' })] });
  const [first] = combineRoutes(known, NOTHING);
  const sent = first!.lines.map(({ route }) => (route?.parts ?? []).filter((part) => part.kind === 'transfer').map((part) => part.quantity));
  // The second has what is left of the twelve, or nothing at all where a part is no option.
  expect(sent[0]).toEqual(['10']);
  expect(sent[1]!.every((quantity) => Number(quantity) <= 2)).toBe(true);
  expect(first!.without + first!.asks).toBe(1);
  expect(first!.lastDay).toBeNull();
});

test('what comes to the same choices stands once, the customer’s own policy first', () => {
  const known = facts(lines(2, { route_policy: 'cheapest' }), { stock: [sampleStock('30', { warehouse: 'QUI' })] });
  const found = combineRoutes(known, NOTHING);
  expect(found.map((row) => [row.name, row.complete])).toEqual([
    ['cheapest', false],
    ['one_day', true],
  ]);
  // Both lines come over together and leave together: one shipment.
  expect(found[0]).toMatchObject({ lastDay: '2027-03-11', late: 2, worstLate: 2, shipments: 1, asks: 0, without: 0 });
});

test('in time costs more than cheap where a supplier ships from their house', () => {
  const known = facts(lines(2), { stock: [sampleStock('30', { warehouse: 'QUI' })] }, { offers: new Map([['JAR', [offer('FAST')]]]) });
  const of = new Map(combineRoutes(known, NOTHING).map((row) => [row.name, row]));
  const [early, cheap] = [of.get('on_time')!, of.get('cheapest')!];
  expect(early.lines.every(({ route }) => route!.parts[0]!.kind === 'drop_ship')).toBe(true);
  expect(cheap.lines.every(({ route }) => route!.parts[0]!.kind === 'transfer')).toBe(true);
  expect(early.lastDay! < cheap.lastDay!).toBe(true);
  expect(Number(early.margin)).toBeLessThan(Number(cheap.margin));
});

test('on one day: nothing leaves before the last, at the least cost that still makes that day; not for a released order', () => {
  const known = facts(lines(2), { stock: [sampleStock('30', { warehouse: 'QUI' })] });
  const one = combineRoutes(known, NOTHING).find((row) => row.name === 'one_day')!;
  expect(one).toMatchObject({ complete: true, shipments: 1, lastDay: '2027-03-11' });
  const released = facts(lines(2, { state: 'released', number: '20001' }), { stock: [sampleStock('30', { warehouse: 'QUI' })] });
  expect(combineRoutes(released, NOTHING).map((row) => row.name)).not.toContain('one_day');
});
