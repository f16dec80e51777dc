import { savepoint, takeLocks } from '../src/locks';
import { TestDesk } from './test-desk';

let desk: TestDesk;
beforeAll(async () => {
  desk = await TestDesk.open();
  await desk.stockUp('JAR', '50');
});
afterAll(() => desk.close());

const JAR = { item: 'JAR', warehouse: 'MAR' };
const LID = { item: 'LID', warehouse: 'QUI' };
/** The locks that are asked for while `work` is done, in their sequence. */
async function locked(work: () => Promise<unknown>): Promise<string[]> {
  const before = desk.statements.length;
  await work();
  const asked = desk.statements.slice(before).filter((text) => /for no key update/i.test(text));
  return asked.map((text) => /from "?(\w+)/i.exec(text)![1]!);
}

test('what an act touches is locked kind by kind, by one statement a kind, in whatever sequence it is told', async () => {
  const [first, second] = [await desk.order([['JAR', '1']]), await desk.order([['JAR', '1']])];
  const sequence = await locked(() =>
    desk.db
      .transaction()
      .execute((trx) =>
        takeLocks(trx, { pools: [LID, JAR, JAR], orders: [second.id, first.id, null, second.id], customers: [1], purchases: [], shipments: [] }),
      ),
  );
  // One lock order, and nothing for what is not touched. The pool that had no row is made, and so locked.
  expect(sequence).toEqual(['sales_order', 'customer', 'stock']);
});

test('what is held is not locked again; what comes before it in the order is refused', async () => {
  const [first, second] = [await desk.order([['JAR', '1']]), await desk.order([['JAR', '1']])];
  await desk.db.transaction().execute(async (trx) => {
    expect(await locked(() => takeLocks(trx, { orders: [first.id], pools: [JAR] }))).toEqual(['sales_order', 'stock']);
    expect(await locked(() => takeLocks(trx, { orders: [first.id], pools: [JAR] }))).toEqual([]);
    await expect(takeLocks(trx, { orders: [second.id] })).rejects.toThrow(`orders/${second.id} would be locked after pools`);
  });
  // Of another transaction nothing is held.
  expect(await locked(() => desk.db.transaction().execute((trx) => takeLocks(trx, { orders: [second.id] })))).toEqual(['sales_order']);
});

test('what was locked since a place that a transaction goes back to is locked no more', async () => {
  await desk.db.transaction().execute(async (trx) => {
    await takeLocks(trx, { customers: [1] });
    const before = await savepoint(trx, 'here');
    await takeLocks(trx, { pools: [JAR] });
    await before.back();
    expect(await locked(() => takeLocks(trx, { contractLines: [], pools: [JAR] }))).toEqual(['stock']);
  });
});
