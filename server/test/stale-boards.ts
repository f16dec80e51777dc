import { sql } from 'kysely';
import { computeBoards, refreshBoards } from '../src/boards';
import type { Now } from '../src/clock';
import type { Db } from '../src/database';

type Row = Readonly<Record<string, unknown>>;

/** A row in one writing: amounts without trailing zeros, columns by name. */
function written(row: Row): string {
  const plain = Object.entries(row)
    .filter(([name]) => name !== 'id')
    .map(([name, value]) => [name, typeof value === 'string' && /^-?\d+\.\d+$/.test(value) ? String(Number(value)) : value] as const)
    .sort(([a], [b]) => (a < b ? -1 : 1));
  return JSON.stringify(plain, (_, value: unknown) =>
    value !== null && typeof value === 'object' && !Array.isArray(value)
      ? Object.fromEntries(Object.entries(value).sort(([a], [b]) => (a < b ? -1 : 1)))
      : value,
  );
}

/**
 * Where what boards show is not what the computation on the whole book says, once it has been brought up to date as it is
 * before somebody reads it; a sentence for each row.
 */
export async function staleBoards(db: Db, now: Now): Promise<string[]> {
  return db.transaction().execute(async (trx) => {
    await refreshBoards(trx, now);
    const { short, ready, gaps, offers, ties } = await computeBoards(trx, now);
    const faults: string[] = [];
    const compare = (table: string, kept: readonly Row[], wanted: readonly Row[]) => {
      const [has, should] = [new Set(kept.map(written)), new Set(wanted.map(written))];
      for (const row of has) if (!should.has(row)) faults.push(`${table} keeps ${row}, which is not so`);
      for (const row of should) if (!has.has(row)) faults.push(`${table} lacks ${row}`);
      if (kept.length !== wanted.length) faults.push(`${table} keeps ${kept.length} rows for ${wanted.length}`);
    };
    const of = async (table: 'board_short' | 'board_ready' | 'board_gap' | 'board_offer' | 'board_tie') =>
      (await trx.selectFrom(table).selectAll().execute()) as Row[];
    compare('board_short', await of('board_short'), short as unknown as Row[]);
    compare('board_ready', await of('board_ready'), ready as unknown as Row[]);
    compare('board_gap', await of('board_gap'), gaps);
    compare('board_offer', await of('board_offer'), offers as unknown as Row[]);
    compare('board_tie', await of('board_tie'), ties);
    const { rows } = await sql<{ found: string }>`
      select 'board_leave: order ' || coalesce(k.order_id, w.order_id) as found
      from board_leave k
      full join (
        select r.order_id, r.warehouse, coalesce(l.ship_to_id, o.ship_to_id) as place, min(r.day) as day
        from board_ready r join order_line l on l.id = r.line_id join sales_order o on o.id = r.order_id
        where not (o.ship_complete and r.order_id in (select order_id from board_gap)) group by 1, 2, 3
      ) w using (order_id, warehouse, place, day)
      where k.search is null or w.order_id is null`.execute(trx);
    return [...faults, ...rows.map((row) => row.found)];
  });
}
