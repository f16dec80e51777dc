import type { PurchaseRow } from '@nockwright/contract/supply';
import { sql } from 'kysely';
import type { Now } from '../clock';
import { escapeLike, searchWords, type Db } from '../database';

const MOST = 500;

interface Row extends Omit<PurchaseRow, 'expectedDay' | 'openLines' | 'lines' | 'overdue' | 'toLook'> {
  to_look: boolean;
  expected_day: string | null;
  lines: number;
  open_lines: number;
}

/** Purchase orders, what is due first. */
export async function listPurchases(
  db: Db,
  now: Now,
  filter: { readonly search?: string; readonly state?: 'open' | 'look' | 'closed' | 'all' },
): Promise<PurchaseRow[]> {
  const { search, state = 'open' } = filter;
  const look = sql`exists (select from exchange_message x where x.purchase_id = p.id and x.needs_look)`;
  const states = { open: sql`p.state in ('draft', 'sent', 'acknowledged')`, look, closed: sql`p.state in ('closed', 'cancelled')`, all: sql`true` };
  const matches = searchWords(search).map((word) => {
    const like = `%${escapeLike(word)}%`;
    return sql`and (lower(p.number) like ${like} or lower(s.name) like ${like} or lower(coalesce(o.number, b.orders, '')) like ${like} or exists (select from purchase_line m where m.purchase_id = p.id and lower(m.item) like ${like}))`;
  });
  const { rows } = await sql<Row>`
    select p.id, p.number, ${look} as to_look, s.name as supplier, p.kind, p.state, p.warehouse, coalesce(o.number, b.orders) as order,
      f.expected_day::text as expected_day, f.lines::int as lines, f.open_lines::int as open_lines, coalesce(f.value, 0)::numeric(15, 2)::text as value
    from purchase_order p
    join supplier s on s.code = p.supplier
    left join sales_order o on o.id = p.order_id
    left join lateral (
      select string_agg(distinct x.number, ', ') as orders
      from purchase_line m join order_line ol on ol.id = m.order_line_id join sales_order x on x.id = ol.order_id where m.purchase_id = p.id
    ) b on true
    cross join lateral (
      select min(expected_day) filter (where received + closed < quantity) as expected_day, count(*) as lines,
        count(*) filter (where received + closed < quantity) as open_lines, sum(round(quantity * cost, 2)) as value
      from purchase_line where purchase_id = p.id
    ) f
    where ${states[state]} ${sql.join(matches, sql` `)}
    order by f.expected_day nulls last, p.id
    limit ${MOST}`.execute(db);
  return rows.map(({ expected_day, open_lines, to_look, ...row }) => ({
    ...row,
    toLook: to_look,
    expectedDay: expected_day,
    openLines: open_lines,
    overdue: expected_day !== null && expected_day < now.today,
  }));
}
