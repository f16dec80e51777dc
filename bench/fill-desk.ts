import type pg from 'pg';

/** What a filled desk is made of: ten customers to an item, twenty open lines to an item. */
const LINES_AN_ORDER = 4;
const LINES_AN_ITEM = 20;
const PURCHASES_AN_ITEM = 3;
/** Years of receipts, by which it goes how sure a supplier's day is. */
const RECEIPTS = 50_000;

export interface FilledDesk {
  /** Items, named `B1` to `B<items>`. */
  readonly items: number;
  readonly lines: number;
}

/**
 * Fills a database that has the standing data of the demo with released orders until `lines` lines are open: on hand,
 * purchases under way, years of receipts, one order in ten to leave complete, and the day that was promised for all lines but one in fifty,
 * which waits. Written in bulk, by the same tables and triggers as everything else.
 */
export async function fillDesk(client: pg.Client, lines: number, today: string): Promise<FilledDesk> {
  const items = Math.floor(lines / LINES_AN_ITEM);
  const orders = Math.floor(lines / LINES_AN_ORDER);
  const statements: readonly (readonly [string, readonly unknown[]])[] = [
    ['select setseed(0.5)', []],
    [
      `insert into item (code, description, item_group, unit, weight, list_price, cost)
       select 'B' || at, 'Bench item ' || at, 'Bench', 'EA', 0.2, 0.52, 0.31 from generate_series(1, $1::int) at`,
      [items],
    ],
    [
      `insert into supplier_item (supplier, item, their_code, cost, minimum, multiple)
       select 'TARNBECK', 'B' || at, 'T' || at, 0.31, 1, 1 from generate_series(1, $1::int) at`,
      [items],
    ],
    [
      `insert into stock_movement (at, item, warehouse, quantity, kind, reference)
       select now(), 'B' || at, 'MAR', 200 + floor(random() * 100), 'opening', 'bench' from generate_series(1, $1::int) at`,
      [items],
    ],
    [
      `insert into supplier_receipt (supplier, item, promised_day, received_day)
       select s.code, 'B1', $2::date - 1 - at / 50, $2::date - 1 - at / 50 + greatest(0, floor(random() * 10)::int - 7)
       from generate_series(1, $1::int / (select count(*)::int from supplier)) at, supplier s`,
      [RECEIPTS, today],
    ],
    [
      `insert into purchase_order (number, kind, supplier, warehouse, state, created_day, ship_to)
       select 'PB' || at, 'stock', 'TARNBECK', 'MAR', 'sent', $2::date, 'Marrowby' from generate_series(1, $1::int) at`,
      [items, today],
    ],
    [
      `insert into purchase_line (purchase_id, line_no, item, warehouse, quantity, cost, expected_day, firm)
       select p.id, at, 'B' || substr(p.number, 3), 'MAR', 40 + floor(random() * 40), 0.31, $1::date + 1 + floor(random() * 60)::int, true
       from purchase_order p, generate_series(1, $2::int) at where p.number like 'PB%'`,
      [today, PURCHASES_AN_ITEM],
    ],
    [
      `insert into sales_order (number, state, customer_id, ship_to_id, request_kind, requested_day, warehouse, carrier_service, ship_complete, source, priority, terms_days, entered, saved_at)
       select 'B' || at, 'released', s.customer_id, s.id, 'ship_by', $2::date + floor(random() * 60)::int, 'MAR', 'GROUND', random() < 0.1, 'file',
         1 + floor(random() * 9)::int, 30, $2::date - 1 - floor(random() * 20)::int + time '08:00' + floor(random() * 540) * interval '1 minute', now()
       from generate_series(1, $1::int) at
       join lateral (select id, customer_id from ship_to order by id offset at % (select count(*) from ship_to) limit 1) s on true`,
      [orders, today],
    ],
    [
      `insert into order_line (order_id, line_no, item, warehouse, unit, numerator, denominator, quantity, stock_quantity, price, price_source, price_trail)
       select o.id, at, 'B' || 1 + (o.id * 7919 + at * 104729) % $1::int, 'MAR', 'EA', 1, 1, q, q, 0.52, 'list price', '[]'
       from sales_order o, generate_series(1, $2::int) at, lateral (select 1 + floor(random() * 19 + 0 * (o.id + at))::int as q) quantity where o.number like 'B%'`,
      [items, LINES_AN_ORDER],
    ],
    [
      `insert into line_promise (line_id, day, quantity)
       select l.id, greatest(o.requested_day, $1::date + 1), l.stock_quantity
       from order_line l join sales_order o on o.id = l.order_id where o.number like 'B%' and l.id % 50 <> 0`,
      [today],
    ],
    // As a database that has been running: statistics made, indexes without rows still waiting to be sorted in.
    ['vacuum analyze', []],
  ];
  for (const [text, values] of statements) await client.query(text, [...values]);
  return { items, lines };
}
