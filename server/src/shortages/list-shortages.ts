import { MOST_ROUTED, type ShortageRow, type Shortages } from '@nockwright/contract/shortages';
import { sql, type RawBuilder } from 'kysely';
import { anyOf, escapeLike, searchWords, together, type Db } from '../database';

export interface ShortageFilter {
  /** Words: all of them are in the item, its description, the order, the customer, the warehouse or who sells it. */
  readonly q?: string;
  /** Only these lines. */
  readonly only?: readonly number[];
  /** Lines asked about: whether they are short, whatever the filter. */
  readonly chosen?: readonly number[];
  readonly most?: number;
}

/** So many are shown at first. */
const FIRST = 60;

/** Released quantities that wait, are late or have lost their supply, as they are kept; most value first. */
export async function listShortages(db: Db, { q, only, chosen = [], most = FIRST }: ShortageFilter = {}): Promise<Shortages> {
  const filter = sql<boolean>`${only ? sql`b.line_id = any(${only}::int[])` : sql`true`}
    ${sql.join(
      searchWords(q).map((word) => sql`and b.search like ${`%${escapeLike(word)}%`}`),
      sql` `,
    )}`;
  return together(db, async (all) => {
    const [rows, totals, lines, short] = await Promise.all([
      readRows(all, filter, most),
      sql<{ count: number; value: string }>`select count(*) as count, coalesce(sum(b.value), 0.00)::text as value from board_short b where ${filter}`.execute(
        all,
      ),
      sql<{ line: number }>`
        select b.line_id as line from board_short b where ${filter} group by b.line_id order by max(b.value) desc, b.line_id limit ${MOST_ROUTED}`.execute(all),
      all.selectFrom('board_short').select('line_id').distinct().where(anyOf('line_id', chosen)).execute(),
    ]);
    return { rows, ...totals.rows[0]!, lines: lines.rows.map((row) => row.line), chosen: short.map((row) => row.line_id) };
  });
}

async function readRows(db: Db, filter: RawBuilder<boolean>, most: number): Promise<ShortageRow[]> {
  const { rows } = await sql<ShortageRow>`
    select o.id as "order", o.number, b.line_id as line, l.line_no as "lineNo", c.name as customer, c.id as "customerId", b.item, i.description, i.unit, l.warehouse, b.requested,
      b.quantity, b.value::text as value, b.kind, b.promised_day as "promisedDay", b.possible_day as "possibleDay", b.days_late as "daysLate", b.drop_ship as "dropShip",
      array(select u.name from supplier_item s join supplier u on u.code = s.supplier where s.item = b.item order by s.cost, u.name) as suppliers,
      exists (select from consent_request r where r.line_id = b.line_id and r.state = 'open') as asked
    from (select * from board_short b where ${filter} order by b.value desc, b.id limit ${most}) b
    join order_line l on l.id = b.line_id
    join sales_order o on o.id = l.order_id
    join customer c on c.id = o.customer_id
    join item i on i.code = b.item
    order by b.value desc, b.id`.execute(db);
  return rows;
}
