import { sql, type Kysely } from 'kysely';

/**
 * The row of an order in the list is locked before what it shows is read: of two who change parts of one order at once, who
 * comes second sees what the first has done. In one statement both would read before they wait.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql`
create or replace function refresh_standing(p_orders integer[]) returns void language plpgsql as $$
begin
  perform from order_standing where order_id = any(p_orders) order by order_id for no key update;
  insert into order_standing as s (order_id, kind, state, customer_name, requested_day, promised_day, amount, lines, open_lines, waiting_lines, shipped, picking, billed, held, search)
  select o.id, o.kind, o.state, c.name, o.requested_day, facts.promised_day, facts.amount, facts.lines, facts.open, facts.waiting, facts.shipped, facts.picking,
    facts.shipped and not exists (select from shipment where order_id = o.id and state = 'shipped' and invoice_id is null),
    o.state = 'draft' and exists (select from order_hold where order_id = o.id and cleared_at is null),
    lower(coalesce(o.number, '') || ' ' || o.po_number) || ' ' || c.search
  from sales_order o
  join customer c on c.id = o.customer_id
  cross join lateral (
    select count(*) as lines,
      coalesce(sum(round((l.stock_quantity - l.cancelled) * l.price * l.denominator / l.numerator, 2)), 0) as amount,
      count(*) filter (where l.shipped + l.cancelled < l.stock_quantity) as open,
      count(*) filter (where l.stock_quantity - l.shipped - l.cancelled > coalesce(p.promised, 0) + coalesce(d.dropped, 0)) as waiting,
      coalesce(bool_or(l.shipped > 0), false) as shipped,
      coalesce(bool_or(exists (select from shipment_line x join shipment g on g.id = x.shipment_id where x.order_line_id = l.id and g.state = 'picking')), false) as picking,
      coalesce(greatest(max(p.last_day), max(d.last_day)), 'infinity') as promised_day
    from order_line l
    left join lateral (select sum(quantity) as promised, max(day) as last_day from line_promise where line_id = l.id) p on true
    left join lateral (select sum(quantity - received - closed) as dropped, max(expected_day) as last_day
      from purchase_line where order_line_id = l.id and warehouse is null and received + closed < quantity) d on true
    where l.order_id = o.id and not l.alternative
  ) facts
  where o.id = any(p_orders)
  order by o.id
  on conflict (order_id) do update set kind = excluded.kind, state = excluded.state, customer_name = excluded.customer_name, requested_day = excluded.requested_day,
    promised_day = excluded.promised_day, amount = excluded.amount, lines = excluded.lines, open_lines = excluded.open_lines, waiting_lines = excluded.waiting_lines,
    shipped = excluded.shipped, picking = excluded.picking, billed = excluded.billed, held = excluded.held, search = excluded.search
  where (s.kind, s.state, s.customer_name, s.requested_day, s.promised_day, s.amount, s.lines, s.open_lines, s.waiting_lines, s.shipped, s.picking, s.billed, s.held, s.search)
    is distinct from (excluded.kind, excluded.state, excluded.customer_name, excluded.requested_day, excluded.promised_day, excluded.amount, excluded.lines,
      excluded.open_lines, excluded.waiting_lines, excluded.shipped, excluded.picking, excluded.billed, excluded.held, excluded.search);
end $$`.execute(db);
}
