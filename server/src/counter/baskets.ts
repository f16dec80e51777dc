import type { CustomerId, OrderId, WarehouseCode } from '@nockwright/core/ids';
import { invoiceTotals, taxFor } from '@nockwright/core/billing';
import { lineAmount, minus } from '@nockwright/core/money';
import type { BasketRow, BasketView } from '@nockwright/contract/counter';
import { sql } from 'kysely';
import type { Db, Trx } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { takeLocks } from '../locks';
import { createOrder } from '../orders';

/** The customer of whoever pays cash and has no account, by number. */
const CASH = 'CASH';

/** Baskets whose goods are held, the oldest first. */
export async function listBaskets(db: Db, warehouse: string | undefined): Promise<BasketRow[]> {
  const { rows } = await sql<BasketRow>`
    select b.order_id as "order", b.warehouse, c.name as customer, count(l.id)::int as lines,
      coalesce((select sum(g.net + round(g.net * g.percent / 100, 2)) from (
        select case when c.tax_exemption = '' then t.percent else 0 end as percent, sum(round(x.quantity * x.price, 2)) as net
        from order_line x join item i on i.code = x.item join tax_class t on t.code = i.tax_class where x.order_id = o.id group by 1) g), 0)::text as total, to_char(b.opened_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"') as "openedAt", u.name as "openedBy"
    from counter_basket b join sales_order o on o.id = b.order_id join customer c on c.id = o.customer_id join app_user u on u.id = b.opened_by
      left join order_line l on l.order_id = o.id
    where b.state = 'open' and (${warehouse ?? null}::text is null or b.warehouse = ${warehouse ?? null})
    group by b.order_id, o.id, c.id, u.name order by b.opened_at, b.order_id`.execute(db);
  return rows;
}

type BasketLine = BasketView['lines'][number];

interface HeadRow extends Omit<BasketView, 'lines' | 'net' | 'taxes' | 'total' | 'payment'> {
  readonly exemption: string;
  readonly invoice: string | null;
  readonly method: 'cash' | 'card' | 'account' | null;
  readonly amount: string;
  readonly given: string;
  readonly reference: string;
  readonly rows: readonly (Omit<BasketLine, 'amount'> & { readonly percent: string })[];
}

/** A basket as the counter shows it. */
export async function readBasket(db: Db, order: OrderId): Promise<BasketView> {
  const { rows: found } = await sql<HeadRow>`
    select o.id as "order", o.version, o.number, b.warehouse, b.state, c.name as customer, c.id as "customerId", c.number = ${CASH} as cash, o.currency,
      to_char(b.opened_at at time zone 'UTC', 'YYYY-MM-DD"T"HH24:MI:SS"Z"') as "openedAt", u.name as "openedBy",
      p.method, p.amount::text as amount, p.given::text as given, p.reference, c.tax_exemption as exemption,
      (select i.number from shipment s join invoice i on i.id = s.invoice_id where s.order_id = o.id limit 1) as invoice,
      (select coalesce(json_agg(json_build_object('line', l.id, 'item', l.item, 'description', i.description, 'unit', l.unit, 'quantity', trim_scale(l.quantity)::text,
          'price', l.price::text, 'priceSource', l.price_source, 'percent', trim_scale(t.percent)::text,
          'lots', (select coalesce(json_agg(distinct s.lot) filter (where s.lot <> ''), '[]') from (
            select h.place_id from counter_hold h where h.line_id = l.id union all select r.place_id from pick_part r where r.order_line_id = l.id) x
            join stock_place s on s.id = x.place_id)) order by l.line_no), '[]')
        from order_line l join item i on i.code = l.item join tax_class t on t.code = i.tax_class where l.order_id = o.id) as rows
    from counter_basket b join sales_order o on o.id = b.order_id join customer c on c.id = o.customer_id join app_user u on u.id = b.opened_by
      left join counter_payment p on p.order_id = b.order_id
    where b.order_id = ${order}`.execute(db);
  const head = found[0];
  if (!head) throw notFound(`basket ${order}`);
  const { method, amount, given, reference, rows, exemption, ...basket } = head;
  const lines = rows.map(({ percent, ...line }) => ({ line: { ...line, amount: lineAmount(line.quantity, line.price, head.currency) }, percent }));
  // Handed over at home: nothing over the counter is an export.
  const home = { exemption, shipToCountry: '', firmCountry: '' };
  const totals = invoiceTotals(
    lines.map(({ line, percent }) => ({ amount: line.amount, ...taxFor({ ...home, percent }) })),
    head.currency,
  );
  return {
    ...basket,
    lines: lines.map(({ line }) => line),
    net: totals.net,
    taxes: totals.taxes.map(({ percent, tax }) => ({ percent, tax })),
    total: totals.total,
    payment: method === null ? null : { method, amount, given, change: minus(given, amount), reference: reference || '-' },
  };
}

/** Starts a basket: a draft order of the counter, for today, taken along at once. */
export async function startBasket(
  context: CommandContext,
  { warehouse, customer }: { readonly warehouse: WarehouseCode; readonly customer: CustomerId | null },
): Promise<BasketView> {
  const { trx, now, user } = context;
  const place = await trx.selectFrom('warehouse').select('code').where('code', '=', warehouse).executeTakeFirst();
  if (!place) throw invalid('body.warehouse', `there is no warehouse ${warehouse}`);
  const order = await createOrder(context, customer ?? (await cashCustomer(trx)));
  const collected = await trx.selectFrom('carrier_service').select('code').where('code', '=', 'COLLECT').executeTakeFirst();
  await trx
    .updateTable('sales_order')
    .set({
      source: 'counter',
      // What it holds is its own when it is let go to be paid: it comes before whoever has begun to wait meanwhile.
      priority: 1,
      place: '0',
      warehouse,
      requested_day: now.today,
      ship_complete: false,
      most_shipments: null,
      ...(collected ? { carrier_service: collected.code } : {}),
      description: 'over the counter',
    })
    .where('id', '=', order.id)
    .execute();
  await trx.insertInto('counter_basket').values({ order_id: order.id, warehouse, opened_at: now.instant, opened_by: user.id }).execute();
  return readBasket(trx, order.id);
}

async function cashCustomer(trx: Trx): Promise<CustomerId> {
  const row = await trx.selectFrom('customer').select('id').where('number', '=', CASH).executeTakeFirst();
  if (!row) throw new Refusal('conflict', 'There is no customer with the number CASH. Make one, or choose a customer.');
  return row.id;
}

/** Locks a basket that is open; gives its warehouse. */
export async function lockBasket(trx: Trx, order: OrderId): Promise<WarehouseCode> {
  await takeLocks(trx, { orders: [order] });
  const row = await trx.selectFrom('counter_basket').select(['state', 'warehouse']).where('order_id', '=', order).executeTakeFirst();
  if (!row) throw notFound(`basket ${order}`);
  if (row.state !== 'open') throw new Refusal('conflict', `This basket is ${row.state} already.`);
  return row.warehouse;
}

/** Locks the pools of what a basket holds: they are written as it is freed. */
export async function lockHeld(trx: Trx, order: OrderId): Promise<void> {
  const pools = await trx
    .selectFrom('counter_hold')
    .innerJoin('stock_place', 'stock_place.id', 'counter_hold.place_id')
    .select(['stock_place.item', 'stock_place.warehouse'])
    .where('order_id', '=', order)
    .execute();
  await takeLocks(trx, { pools });
}

/** Drops a basket: what it held is for anyone again. */
export async function dropBasket(context: CommandContext, order: OrderId): Promise<BasketView> {
  const { trx } = context;
  await lockBasket(trx, order);
  await lockHeld(trx, order);
  await trx.deleteFrom('counter_hold').where('order_id', '=', order).execute();
  await trx.updateTable('counter_basket').set({ state: 'dropped' }).where('order_id', '=', order).execute();
  await trx.updateTable('sales_order').set({ state: 'discarded' }).where('id', '=', order).execute();
  await recordEvent(context, { kind: 'counter.dropped', facts: {}, subjects: [{ kind: 'order', key: order }] });
  return readBasket(trx, order);
}
