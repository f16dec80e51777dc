import { sql, type CompiledQuery } from 'kysely';
import { readTogether, together, type Db } from '../src/database';
import { TestDesk } from './test-desk';

let desk: TestDesk;
beforeAll(async () => {
  desk = await TestDesk.open();
  await desk.stockUp('JAR', '40.25');
  await desk.purchase('JAR', '25', '2027-03-19');
  await desk.order([
    ['JAR', '5'],
    ['JAR', '2', 'DZN'],
  ]);
});
afterAll(() => desk.close());

const statementsOf = async <T>(read: () => Promise<T>) => {
  const before = desk.statements.length;
  const found = await read();
  return { found, statements: desk.statements.length - before };
};

test('several are read in one statement, each as it reads by itself: every column of every table', async () => {
  const tables = await sql<{ name: string }>`
    select tablename as name from pg_tables where schemaname = 'public' and has_table_privilege(to_regclass(format('public.%I', tablename)), 'select') order by 1`.execute(
    desk.db,
  );
  const queries = Object.fromEntries(tables.rows.map(({ name }) => [name, sql.raw(`select * from ${name} order by 1 limit 50`).compile(desk.db)]));
  expect(Object.keys(queries).length).toBeGreaterThan(50);
  const alone: Record<string, unknown[]> = {};
  for (const [name, query] of Object.entries(queries)) alone[name] = (await desk.db.executeQuery(query)).rows;
  // The first time each is sent by itself, to learn its columns.
  expect(await readTogether(desk.db, queries)).toEqual(alone);
  const { found, statements } = await statementsOf(() => readTogether(desk.db, queries));
  expect(statements).toBe(1);
  expect(found).toEqual(alone);
});

test('each has its own parameters; texts that look like one, nothing at all, lists and dates come through', async () => {
  const query = (text: string) =>
    sql`select ${text}::text as said, '$1' as "dollar", '2027-03-09'::date as day, array[1, 2] as list, true as yes, false as no, null::numeric as none,
      12.3400::numeric as figure, '{"a": [1.10]}'::json as facts, 'é "quoted", \\ and {braces}'::text as odd`.compile(desk.db) as CompiledQuery<
      Record<string, unknown>
    >;
  const queries = () => ({ one: query('first'), none: sql`select 1 as never where false and ${'x'} = 'y'`.compile(desk.db), two: query("it's $2") });
  const first = await readTogether(desk.db, queries());
  const again = await readTogether(desk.db, queries());
  expect(again).toEqual(first);
  expect(again.one).toEqual([
    {
      said: 'first',
      dollar: '$1',
      day: '2027-03-09',
      list: [1, 2],
      yes: true,
      no: false,
      none: null,
      figure: '12.34',
      facts: { a: [1.1] },
      odd: 'é "quoted", \\ and {braces}',
    },
  ]);
  expect([again.none, again.two[0]!['said']]).toEqual([[], "it's $2"]);
});

test('rows stand in the sequence that each asks for', async () => {
  const query = (way: 'asc' | 'desc') => desk.db.selectFrom('item').select('code').orderBy('code', way).compile();
  const read = () => readTogether(desk.db, { up: query('asc'), down: query('desc') });
  await read();
  const { up, down } = await read();
  expect(up.map((row) => row.code)).toEqual([...down].reverse().map((row) => row.code));
  expect(up[0]).not.toEqual(down[0]);
});

describe('loaders whose answers are awaited together', () => {
  const codes = (db: Db) => db.selectFrom('item').select('code').orderBy('code').execute();
  const units = (db: Db, item: string) => db.selectFrom('item_unit').select('unit').where('item', '=', item).orderBy('unit').execute();

  test('are one statement a round, however they are nested', async () => {
    const read = () =>
      together(desk.db, async (db) => {
        const [items, users] = await Promise.all([codes(db), db.selectFrom('app_user').select('login').orderBy('login').execute()]);
        return { items, users, units: await Promise.all(items.map((item) => units(db, item.code))) };
      });
    const first = await read();
    const { found, statements } = await statementsOf(read);
    expect([statements, found]).toEqual([2, first]);
    expect(found.units[found.items.findIndex((item) => item.code === 'JAR')]).toEqual([{ unit: 'DZN' }, { unit: 'XTY' }]);
  });

  test('fail as one, and neither change nor lock anything', async () => {
    const wrong = () => together(desk.db, (db) => Promise.all([codes(db), sql`select 1 / (select count(*) from item where code = 'none')`.execute(db)]));
    await expect(wrong()).rejects.toThrow('division by zero');
    await expect(wrong()).rejects.toThrow('division by zero');
    await expect(together(desk.db, (db) => db.deleteFrom('item').execute())).rejects.toThrow('only reads');
    await expect(together(desk.db, (db) => db.selectFrom('item').select('code').forNoKeyUpdate().execute())).rejects.toThrow('only reads');
    await expect(together(desk.db, (db) => db.transaction().execute(codes))).rejects.toThrow('no transaction of its own');
  });

  test('see what their transaction has written', async () => {
    await desk.db.transaction().execute(async (trx) => {
      await trx.updateTable('item').set({ description: 'changed here' }).where('code', '=', 'JAR').execute();
      const [found] = await together(trx, (db) => Promise.all([db.selectFrom('item').select('description').where('code', '=', 'JAR').execute(), codes(db)]));
      expect(found).toEqual([{ description: 'changed here' }]);
    });
  });
});
