import { sql } from 'kysely';
import type { Db } from '../src/database';

/** What must hold of the books at any time; gives a sentence for everything that does not. */
export async function brokenInvariants(db: Db): Promise<string[]> {
  const checks: readonly (readonly [string, ReturnType<typeof sql<{ found: string }>>])[] = [
    [
      'on hand is received less shipped',
      sql`select s.item || '/' || s.warehouse as found from stock s where on_hand <> coalesce((select sum(quantity) from stock_movement m where m.item = s.item and m.warehouse = s.warehouse), 0)`,
    ],
    [
      'committed is what is promised',
      sql`select s.item || '/' || s.warehouse as found from stock s where committed <> coalesce((select sum(p.quantity) from line_promise p join order_line l on l.id = p.line_id where l.item = s.item and l.warehouse = s.warehouse), 0)`,
    ],
    [
      'inbound is what is awaited',
      sql`select s.item || '/' || s.warehouse as found from stock s where inbound <> coalesce((select sum(quantity - received - closed) from purchase_line p where p.item = s.item and p.warehouse = s.warehouse and p.firm), 0)`,
    ],
    [
      'set aside is what is being picked',
      sql`select s.item || '/' || s.warehouse as found from stock s where allocated <> coalesce((select sum(x.quantity) from shipment_line x join shipment h on h.id = x.shipment_id join order_line l on l.id = x.order_line_id where h.state = 'picking' and l.item = s.item and l.warehouse = s.warehouse), 0)`,
    ],
    ['nothing is promised beyond supply', sql`select item || '/' || warehouse as found from stock where committed > on_hand + inbound`],
    [
      'shipped is what left',
      sql`select l.id::text as found from order_line l where shipped <> coalesce((select sum(x.quantity) from shipment_line x join shipment h on h.id = x.shipment_id where h.state = 'shipped' and x.order_line_id = l.id), 0)`,
    ],
    [
      'a line is shipped, cancelled, promised, dropped or waiting, and no more',
      sql`select l.id::text as found from order_line l where shipped + cancelled
        + coalesce((select sum(quantity) from line_promise where line_id = l.id), 0)
        + coalesce((select sum(quantity - received - closed) from purchase_line where order_line_id = l.id and warehouse is null), 0) > stock_quantity`,
    ],
    [
      'a pick takes no more than is promised',
      sql`select l.id::text as found from order_line l where coalesce((select sum(x.quantity) from shipment_line x join shipment h on h.id = x.shipment_id where h.state = 'picking' and x.order_line_id = l.id), 0) > coalesce((select sum(quantity) from line_promise where line_id = l.id), 0)`,
    ],
    [
      'a bound purchase line points to a living order line',
      sql`select p.id::text as found from purchase_line p join order_line l on l.id = p.order_line_id where p.received + p.closed < p.quantity and l.shipped + l.cancelled = l.stock_quantity`,
    ],
    [
      'used of a contract is what released orders bought under it',
      sql`select c.id::text as found from contract_line c where used <> coalesce((select sum(l.stock_quantity - l.cancelled) from order_line l join sales_order o on o.id = l.order_id where l.contract_line_id = c.id and o.state = 'released'), 0)`,
    ],
    [
      'the list shows of an order what it is made of',
      sql`select o.id::text as found from sales_order o
        left join order_standing s on s.order_id = o.id
        cross join lateral (
          select count(*) as lines, coalesce(sum(round((stock_quantity - cancelled) * price * denominator / numerator, 2)), 0) as amount,
            count(*) filter (where shipped + cancelled < stock_quantity) as open,
            count(*) filter (where stock_quantity - shipped - cancelled > coalesce((select sum(quantity) from line_promise where line_id = l.id), 0)
              + coalesce((select sum(quantity - received - closed) from purchase_line where order_line_id = l.id and warehouse is null), 0)) as waiting,
            max((select max(day) from line_promise where line_id = l.id)) as promised
          from order_line l where l.order_id = o.id and not alternative) f
        where s.order_id is null or s.state <> o.state or s.lines <> f.lines or s.amount <> f.amount or s.open_lines <> f.open or s.waiting_lines <> f.waiting
          or (f.promised is not null and s.promised_day < f.promised)
          or s.held <> (o.state = 'draft' and exists (select from order_hold where order_id = o.id and cleared_at is null))
          or s.picking <> exists (select from shipment where order_id = o.id and state = 'picking')`,
    ],
    [
      'no number is left out',
      sql`select n::text as found from (select generate_series(min(number::int), max(number::int)) from sales_order where number ~ '^[0-9]+$') all_numbers(n)
        where not exists (select from sales_order where number = n::text)`,
    ],
    [
      'numbers have no gaps',
      sql`select 'order ' || number as found from sales_order where state = 'released' and number::int >= (select next from number_series where name = 'order')`,
    ],
  ];
  const broken: string[] = [];
  for (const [rule, query] of checks) for (const { found } of (await query.execute(db)).rows) broken.push(`${rule}: ${found}`);
  return broken;
}
