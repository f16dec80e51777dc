// Ways out of shortages over HTTP, on the filled desk: all routes of one line, and a thousand short lines planned and routed.
import { randomUUID } from 'node:crypto';
import type pg from 'pg';
import { delays, worstDelay } from './loop-delay';
import { percentile, type Figure } from './measure';

const LINES = 200;
const WARM = 20;
const MANY = 1_000;
const ONE_MS = 30;
const MANY_MS = 10_000;
const REORDER_MS = 1_000;
const REORDER_ROUNDS = 5;

interface Plan {
  readonly rows: readonly {
    readonly line: number;
    readonly route: {
      readonly parts: readonly {
        readonly kind: string;
        readonly quantity: string;
        readonly supplier: string | null;
        readonly warehouse: string | null;
        readonly item: string | null;
      }[];
    } | null;
  }[];
}

/** Goods to be had elsewhere: every other item lies at another warehouse, too, and has a second supplier with breaks. */
export async function fillWays(owner: pg.Client): Promise<void> {
  await owner.query(`insert into stock_movement (at, item, warehouse, quantity, kind, reference)
    select now(), code, 'QUI', 5 + length(code), 'opening', 'bench' from item where code ~ '^B[0-9]*[02468]$'`);
  await owner.query(`insert into supplier_item (supplier, item, their_code, cost, minimum, multiple)
    select 'HALEWOOD', code, 'H', 0.33, 10, 10 from item where code ~ '^B[0-9]*[02468]$'`);
  await owner.query(
    `insert into supplier_item_break (supplier, item, from_quantity, cost) select supplier, item, 100, 0.30 from supplier_item where item ~ '^B[0-9]+$'`,
  );
  await owner.query('vacuum analyze');
}

export async function measureRoutes(url: string, cookie: string, pool: pg.Pool): Promise<Figure[]> {
  const { rows } = await pool.query<{ id: number; order_id: number }>(
    `select l.id, l.order_id from order_line l join sales_order o on o.id = l.order_id
     where o.number like 'B%' and not exists (select from line_promise where line_id = l.id) order by l.id limit $1`,
    [MANY],
  );
  const get = async <R>(path: string): Promise<R> => {
    const response = await fetch(`${url}/api${path}`, { headers: { cookie } });
    if (!response.ok) throw new Error(`${path.slice(0, 60)}: ${response.status} ${await response.text()}`);
    return (await response.json()) as R;
  };
  const one: number[] = [];
  for (const [at, row] of rows.slice(0, LINES + WARM).entries()) {
    const before = performance.now();
    const { routes } = await get<{ routes: readonly unknown[] }>(`/orders/${row.order_id}/lines/${row.id}/routes?quantity=1`);
    if (at >= WARM) one.push(performance.now() - before);
    if (routes.length === 0) throw new Error(`line ${row.id} has no way`);
  }
  one.sort((a, b) => a - b);

  const beforePlan = performance.now();
  const plan = await get<Plan>(`/shortages/plan?lines=${rows.map((row) => row.id).join(',')}`);
  const planned = performance.now() - beforePlan;
  const choices = plan.rows.flatMap(({ line, route }) =>
    route
      ? [
          {
            line,
            parts: route.parts.map(({ kind, quantity, supplier, warehouse, item }) => ({
              kind,
              quantity,
              ...(supplier ? { supplier } : {}),
              ...(warehouse ? { warehouse } : {}),
              ...(item ? { item } : {}),
            })),
          },
        ]
      : [],
  );
  await delays();
  const beforeAct = performance.now();
  const response = await fetch(`${url}/api/shortages/routes`, {
    method: 'POST',
    headers: { cookie, 'content-type': 'application/json', origin: url, 'idempotency-key': randomUUID() },
    body: JSON.stringify({ run: randomUUID(), choices, accept: [] }),
  });
  const routed = (await response.json()) as { lines?: number; detail?: string };
  const act = performance.now() - beforeAct;
  const kept = await delays();
  if (!response.ok || (routed.lines ?? 0) < MANY / 2) throw new Error(`routing: ${response.status} ${routed.lines ?? ''} ${routed.detail ?? ''}`);
  const reorder: number[] = [];
  for (let round = 0; round < REORDER_ROUNDS; round++) {
    const before = performance.now();
    const found = await get<readonly unknown[]>('/reorder?which=all');
    reorder.push(performance.now() - before);
    if (found.length === 0) throw new Error('no item is asked for');
  }
  reorder.sort((a, b) => a - b);
  return [
    {
      name: 'what to buy, reckoned over every item and warehouse, p50',
      ratio: percentile(reorder, 0.5) / REORDER_MS,
      against: `${REORDER_MS / 1000} s`,
      target: 1,
    },
    { name: 'all routes of one short line over HTTP, 100,000 open lines, p50', ratio: percentile(one, 0.5) / ONE_MS, against: `${ONE_MS} ms`, target: 1 },
    { name: 'the same, p95', ratio: percentile(one, 0.95) / ONE_MS, against: `${ONE_MS} ms`, target: 1 },
    { name: `${(routed.lines ?? 0).toLocaleString('en')} short lines routed in one act`, ratio: act / MANY_MS, against: `${MANY_MS / 1000} s`, target: 1 },
    worstDelay('while they are routed', kept.worst),
    { name: 'the plan for a thousand short lines', ratio: planned / MANY_MS, against: `${MANY_MS / 1000} s`, target: 1 },
  ];
}
