import fc from 'fast-check';
import { isoDay, dayNumber } from '../src/calendar';
import type { BookDemand, BookOrder, BookSupply, OrderBook } from '../src/promise';

/** A book of one warehouse that works every day from its first: days and quantities can be read off as they are written. */
export function simpleBook(parts: Partial<OrderBook> & { readonly demand: readonly BookDemand[] }): OrderBook {
  const orders = [...new Set(parts.demand.map((row) => row.order))];
  return {
    asOf: '2027-03-01T09:30',
    warehouses: [{ id: 'N', workdays: [1, 2, 3, 4, 5, 6, 7] }],
    items: [{ id: 'JAR' }],
    supply: [],
    orders: orders.map((id, at) => ({ id, entered: `2027-02-01T10:${String(at).padStart(2, '0')}` })),
    ...parts,
  };
}

export function onHand(quantity: number, id = 'S'): BookSupply {
  return { id, item: 'JAR', warehouse: 'N', quantity };
}

export function due(date: string, quantity: number, id = `PO-${date}`): BookSupply {
  return { id, item: 'JAR', warehouse: 'N', quantity, date };
}

export function wants(order: string, quantity: number, requested: string, more: Partial<BookDemand> = {}): BookDemand {
  return { id: `${order}/1`, order, item: 'JAR', warehouse: 'N', quantity, requested, ...more };
}

const FIRST = dayNumber('2027-03-01');
const day = (most = 20) => fc.integer({ min: -4, max: most }).map((offset) => isoDay(FIRST + offset));
const quantity = fc.oneof(
  fc.integer({ min: 1, max: 40 }),
  fc.integer({ min: 1, max: 400_000 }).map((scaled) => scaled / 10_000),
);

const A = {
  id: 'A',
  assembly: {
    days: 1,
    components: [
      { item: 'B', quantity: 2 },
      { item: 'C', quantity: 1 },
    ],
  },
};
/** The same component at two levels, in a fraction; a batch of it takes two days. */
const B = { id: 'B', assembly: { days: 2, components: [{ item: 'C', quantity: 1.5 }] } };
const ITEMS: Readonly<Record<string, OrderBook['items']>> = {
  none: [{ id: 'A' }, { id: 'B' }, { id: 'C' }],
  'one level': [A, { id: 'B' }, { id: 'C' }],
  'two levels': [A, B, { id: 'C' }],
};

/** Books of a few items and warehouses, with bound supply, kept promises, complete orders and assembled items; and goods that expire, where they are asked for. */
const booksWith = (expiry: boolean): fc.Arbitrary<OrderBook> =>
  fc
    .record({
      workdays: fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { minLength: 2 }),
      closed: fc.array(day(), { maxLength: 3 }),
      cutoff: fc.constantFrom(undefined, '09:00', '14:00'),
      receivingDays: fc.integer({ min: 0, max: 2 }),
      assembly: fc.constantFrom('none', 'one level', 'two levels'),
      supply: fc.array(
        fc.record({
          item: fc.integer({ min: 0, max: 2 }),
          site: fc.integer({ min: 0, max: 1 }),
          quantity,
          date: fc.option(day(), { nil: undefined }),
          bound: fc.option(fc.nat(9), { nil: undefined }),
          expires: fc.option(day(30), { nil: undefined }),
        }),
        { maxLength: 10 },
      ),
      orders: fc.array(
        fc.record({
          priority: fc.oneof(fc.integer({ min: 1, max: 3 }), fc.constantFrom(undefined, -2, 0.5, 2.5, 1e300, -1e300)),
          entered: fc.constantFrom('2027-02-20T10:00', '2027-02-20T10:00', '2027-02-20T09:59', '0001-01-01T00:00', '9999-12-31T23:59'),
          complete: fc.boolean(),
        }),
        { minLength: 1, maxLength: 5 },
      ),
      demand: fc.array(
        fc.record({
          order: fc.nat(4),
          item: fc.integer({ min: 0, max: 2 }),
          site: fc.integer({ min: 0, max: 1 }),
          quantity: fc.integer({ min: 1, max: 30 }),
          requested: day(),
          partial: fc.boolean(),
          life: fc.constantFrom(0, 0, 0, 2, 5),
          // Several in any sequence, now and then two on one day; some say how much of them stands on what is bound.
          promised: fc.array(
            fc.record({ date: day(), part: fc.integer({ min: 1, max: 30 }), assembled: fc.boolean(), bound: fc.option(fc.nat(30), { nil: undefined }) }),
            { maxLength: 3 },
          ),
        }),
        { minLength: 1, maxLength: 8 },
      ),
    })
    .map(({ workdays, closed, cutoff, receivingDays, assembly, supply, orders, demand }): OrderBook => {
      const items = ['A', 'B', 'C'];
      const sites = ['N', 'M'];
      const demands = demand.map((row, at): BookDemand => {
        const item = items[row.item]!;
        let left = row.quantity;
        const promised = row.promised.flatMap(({ date, part, assembled, bound }) => {
          const quantity = Math.min(part, left);
          left -= quantity;
          const how = assembly !== 'none' && item === 'A' && assembled ? { assembled: true } : {};
          return quantity === 0 ? [] : [{ date, quantity, ...how, ...(bound === undefined ? {} : { boundQuantity: Math.min(bound, quantity) }) }];
        });
        return {
          id: `D${at}`,
          order: `O${row.order % orders.length}`,
          item,
          warehouse: sites[row.site]!,
          quantity: row.quantity,
          requested: row.requested,
          partial: row.partial,
          ...(expiry && row.life > 0 ? { lifeDays: row.life } : {}),
          ...(promised.length > 0 ? { promised } : {}),
        };
      });
      return {
        asOf: '2027-03-01T09:30',
        warehouses: sites.map((id) => ({ id, workdays, closed, receivingDays, ...(cutoff ? { cutoff } : {}) })),
        items: ITEMS[assembly]!,
        supply: supply.map((row, at): BookSupply => {
          const target = row.bound === undefined ? undefined : demands[row.bound];
          const place = target ? { item: target.item, warehouse: target.warehouse, for: target.id } : { item: items[row.item]!, warehouse: sites[row.site]! };
          return {
            id: `S${at}`,
            quantity: row.quantity,
            ...(row.date ? { date: row.date } : {}),
            ...(expiry && row.expires ? { expires: row.expires } : {}),
            ...place,
          };
        }),
        orders: orders.map((row, at): BookOrder => ({
          id: `O${at}`,
          ...(row.priority === undefined ? {} : { priority: row.priority }),
          entered: row.entered,
          shipComplete: row.complete,
        })),
        demand: demands,
      };
    });

export const anyBook = booksWith(false);
export const anyExpiringBook = booksWith(true);
