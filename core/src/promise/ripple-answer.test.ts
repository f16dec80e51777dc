import fc from 'fast-check';
import { anyBook, anyExpiringBook, due, onHand, simpleBook, wants } from '../../test/books';
import { promiseBook, ripple, type BookSupply, type OrderBook } from './index';
import { replan } from './replan';

/** How every promise of a book really stands by the promise computation alone: what leaves on which day; '' for what has no goods. */
function standing(book: OrderBook): ReadonlyMap<string, ReadonlyMap<string, number>> {
  const { promises, atRisk } = promiseBook(book);
  return new Map(
    promises.map(({ id, schedule }) => {
      const days = new Map<string, number>();
      const add = (day: string, units: number) => days.set(day, (days.get(day) ?? 0) + units);
      for (const { date, quantity, kept } of schedule) if (kept) add(date, Math.round(quantity * 10_000));
      for (const row of atRisk) {
        if (row.id !== id) continue;
        add(row.date, -Math.round(row.quantity * 10_000));
        if (row.arrives !== null) add(row.arrives, Math.round(row.quantity * 10_000));
      }
      return [id, new Map([...days].filter(([, units]) => units > 0).sort())] as const;
    }),
  );
}

const partsOf = (days: ReadonlyMap<string, number> | undefined) => [...(days ?? [])].map(([day, units]) => ({ day, quantity: units / 10_000 }));

/** Books of goods that are not put together, whose orders may leave in parts: there what moves is just what the computation says. */
const plainBooks = (books: typeof anyBook) =>
  books.map((book): OrderBook => ({
    ...book,
    items: book.items.map(({ id }) => ({ id })),
    orders: book.orders.map((order) => ({ ...order, shipComplete: false })),
    demand: book.demand.map(({ promised, ...row }) => ({
      ...row,
      partial: true,
      ...(promised ? { promised: promised.map(({ assembled: _, ...entry }) => entry) } : {}),
    })),
  }));

interface Change {
  readonly kind: 'slips' | 'short' | 'cancelled' | 'counted' | 'earlier' | 'expires';
  readonly at: number;
  readonly share: number;
}
const change: fc.Arbitrary<Change> = fc.record({
  kind: fc.constantFrom('slips' as const, 'short' as const, 'cancelled' as const, 'counted' as const, 'earlier' as const, 'expires' as const),
  at: fc.nat(20),
  share: fc.integer({ min: 0, max: 9 }),
});

function changed(book: OrderBook, { kind, at, share }: Change): OrderBook {
  if (kind === 'cancelled') {
    const row = book.demand[at % book.demand.length]!;
    const demand = book.demand.filter((other) => other !== row);
    return {
      ...book,
      demand,
      supply: book.supply.map(({ for: target, ...rest }) => (target === undefined || target === row.id ? rest : { ...rest, for: target })),
    };
  }
  const some = book.supply.filter((row) =>
    kind === 'counted' ? row.date === undefined : kind === 'expires' ? row.expires !== undefined : row.date !== undefined,
  );
  if (some.length === 0) return book;
  const row = some[at % some.length]!;
  const as = (next: BookSupply | null): OrderBook => ({ ...book, supply: book.supply.flatMap((other) => (other === row ? (next ? [next] : []) : [other])) });
  const less = Math.round(row.quantity * share * 1000) / 10_000;
  if (kind === 'slips') return as({ ...row, date: '2027-03-25' });
  if (kind === 'earlier') return as({ ...row, date: '2027-03-02' });
  if (kind === 'expires') return as({ ...row, expires: '2027-03-03' });
  return as(less > 0 ? { ...row, quantity: less } : null);
}

test.each([
  ['', anyBook],
  [', where goods expire', anyExpiringBook],
])('whatever happens to supply and orders, who moves is whom the computation says, before and after, and nobody else%s', (_, books) => {
  fc.assert(
    fc.property(plainBooks(books), change, (book, what) => {
      const after = changed(book, what);
      const [was, becomes] = [standing(book), standing(after)];
      const { later, earlier } = ripple(book, after);
      const moves = [...later, ...earlier].map((row) => ({ id: row.id, before: row.before, after: row.after })).sort((a, b) => (a.id < b.id ? -1 : 1));
      const expected = after.demand
        .map(({ id }) => ({ id, before: partsOf(was.get(id)), after: partsOf(becomes.get(id)) }))
        .filter((row) => JSON.stringify(row.before) !== JSON.stringify(row.after))
        .sort((a, b) => (a.id < b.id ? -1 : 1));
      expect(moves).toEqual(expected);
    }),
    { numRuns: 400 },
  );
});

test('a short receipt takes the goods of whom the computation says, not of those on the shelf', () => {
  // Four are promised from the shelf and have early turns last; one is promised from the purchase that comes short.
  const book = simpleBook({
    supply: [onHand(8), due('2027-03-10', 5, 'PO')],
    demand: [
      wants('LATE', 5, '2027-03-11', { promised: [{ date: '2027-03-11', quantity: 5 }] }),
      ...['A', 'B', 'C', 'D'].map((id) => wants(id, 2, '2027-03-02', { promised: [{ date: '2027-03-02', quantity: 2 }] })),
    ],
  });
  const short = { ...book, supply: [onHand(8)] };
  expect(promiseBook(short).atRisk).toEqual([{ id: 'LATE/1', date: '2027-03-11', quantity: 5, arrives: null }]);
  expect(ripple(book, short).later.map((row) => [row.id, row.after])).toEqual([['LATE/1', []]]);
});

test('what stands on anyone’s goods takes nothing that a later part of the line stands on', () => {
  const book = simpleBook({
    supply: [
      { ...due('2027-03-01', 0.0001, 'PO'), for: 'A/1' },
      { ...onHand(0.0001), id: 'FREE' },
      { ...onHand(7.0001), id: 'OWN', for: 'A/1' },
    ],
    demand: [
      wants('A', 9, '2027-03-01', {
        promised: [
          { date: '2027-03-01', quantity: 8, boundQuantity: 7 },
          { date: '2027-03-02', quantity: 1 },
        ],
      }),
    ],
  });
  const late = { ...book, supply: book.supply.map((row) => (row.id === 'PO' ? { ...row, date: '2027-03-25' } : row)) };
  const [row] = ripple(book, late).later;
  expect(row!.after).toEqual(partsOf(standing(late).get('A/1')));
});

test('who is promised goods that are bound to a line they suit on no day gains by them', () => {
  const book = simpleBook({
    supply: [{ ...due('2027-03-03', 1, 'PO'), for: 'B/1', expires: '2027-03-02' }],
    demand: [wants('A', 1, '2027-03-01', { promised: [{ date: '2027-03-02', quantity: 1 }] }), wants('B', 1, '2027-03-08')],
  });
  const sooner = { ...book, supply: book.supply.map((row) => ({ ...row, date: '2027-03-01' })) };
  expect(promiseBook(book).atRisk).toHaveLength(1);
  expect(promiseBook(sooner).atRisk).toEqual([]);
  expect(ripple(book, sooner).earlier.map((row) => [row.id, row.before, row.after])).toEqual([['A/1', [], [{ day: '2027-03-02', quantity: 1 }]]]);
});

test('who is promised goods that a line needs no more keeps them, whether or not anything else is at risk', () => {
  // One unit of B is promised from goods anyone may have: so one of the 22 bound to it is left for C, who is promised it.
  const book = simpleBook({
    supply: [
      { ...due('2027-03-02', 1, 'PO'), for: 'B/1' },
      { ...onHand(39), for: 'B/1' },
    ],
    demand: [
      wants('B', 22, '2027-03-01', { promised: [{ date: '2027-03-02', quantity: 1, boundQuantity: 0 }] }),
      wants('C', 18, '2027-03-01', { promised: [{ date: '2027-03-01', quantity: 18 }] }),
    ],
  });
  expect(promiseBook(book).atRisk).toEqual([]);
  const later = { ...book, demand: [...book.demand.slice(0, 1), { ...book.demand[1]!, requested: '2027-03-02' }] };
  expect(ripple(book, later).later).toEqual([]);
  expect(replan(book, () => 'hold').find((line) => line.id === 'C/1')!.schedule).toEqual([{ date: '2027-03-01', quantity: 18 }]);
});
