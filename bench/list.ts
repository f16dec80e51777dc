import { ORDER_SORTS } from '@nockwright/contract/orders';
import type pg from 'pg';
import { percentile, type Figure } from './measure';

const ORDERS = 100_000;
const LINES_AN_ORDER = 2;
const PAGES = 12;
const LIMIT_MS = 50;
const SEARCHES = ['ha', 'harrow', 'b1', 'marrow b7', 'l4711', 'no such customer'] as const;

/** Adds orders that have shipped until there are a hundred thousand, most of them done: the history of a desk. */
export async function fillHistory(client: pg.Client, today: string): Promise<void> {
  const { rows } = await client.query<{ orders: number }>('select count(*)::int as orders from sales_order');
  const statements: readonly (readonly [string, readonly unknown[]])[] = [
    [
      `insert into sales_order (number, state, customer_id, ship_to_id, po_number, request_kind, requested_day, warehouse, carrier_service, ship_complete, source, priority, terms_days, entered, saved_at)
       select 'L' || at, 'released', s.customer_id, s.id, 'PO-' || at % 997, 'ship_by', $2::date - at % 700, 'MAR', 'GROUND', false, 'file', 5, 30, $2::date - at % 700 + time '09:00', now()
       from generate_series(1, $1::int) at
       join lateral (select id, customer_id from ship_to order by id offset at % (select count(*) from ship_to) limit 1) s on true`,
      [ORDERS - rows[0]!.orders, today],
    ],
    [
      `insert into order_line (order_id, line_no, item, warehouse, unit, numerator, denominator, quantity, stock_quantity, shipped, price, price_source, price_trail)
       select o.id, at, 'B' || 1 + (o.id * 7919 + at * 104729) % 5000, 'MAR', 'EA', 1, 1, q, q, q, 0.52, 'list price', '[]'
       from sales_order o, generate_series(1, $1::int) at, lateral (select 1 + (o.id * 31 + at) % 400 as q) quantity where o.number like 'L%'`,
      [LINES_AN_ORDER],
    ],
    // As a database that has been running: statistics made, indexes without rows still waiting to be sorted in.
    ['vacuum analyze', []],
  ];
  for (const [text, values] of statements) await client.query(text, [...values]);
}

/** Pages of the list by key, in every sequence, of the open orders and of all; and what is typed into its filter. */
export async function measureList(url: string, cookie: string): Promise<Figure[]> {
  const taken: number[] = [];
  const page = async (query: string): Promise<string | null> => {
    const started = performance.now();
    const response = await fetch(`${url}/api/orders?${query}`, { headers: { cookie } });
    const { rows, next } = (await response.json()) as { rows?: readonly unknown[]; next: string | null };
    if (!rows) throw new Error(`the list answered ${response.status}`);
    taken.push(performance.now() - started);
    return next;
  };
  const through = async (filter: string) => {
    let after: string | null = '';
    for (let at = 0; at < PAGES && after !== null; at++) after = await page(`${filter}${after ? `&after=${encodeURIComponent(after)}` : ''}`);
  };
  const figure = (what: string): Figure => {
    taken.sort((a, b) => a - b);
    const name = `${what}, ${ORDERS.toLocaleString('en')} orders, over HTTP, p95`;
    return { name, ratio: percentile(taken, 0.95) / LIMIT_MS, against: `${LIMIT_MS} ms`, target: 1 };
  };
  await through('state=all');
  taken.length = 0;
  for (const state of ['open', 'all', 'done', 'waiting'])
    for (const sort of ORDER_SORTS) for (const reverse of [false, true]) await through(`state=${state}&sort=${sort}&reverse=${reverse}`);
  const pages = figure('a page of the list by key, in every sequence');
  taken.length = 0;
  for (const state of ['open', 'all'])
    for (const sort of ORDER_SORTS) for (const search of SEARCHES) await page(`state=${state}&sort=${sort}&search=${encodeURIComponent(search)}`);
  return [pages, figure('a page of the list as its filter is typed')];
}
