import type { BookRows } from '@nockwright/core/book';
import { sql, type RawBuilder } from 'kysely';
import { keepPlans, type Db } from '../database';
import { owedLate } from './owed-late';

export interface BookScope {
  /** Only these items and what they depend on; the whole book where absent. */
  readonly items?: readonly string[];
  /** A draft to be looked at as if it were released now, last of its priority. */
  readonly draft?: number;
  /** An order that is to be promised as surely as its customer or the desk wants; a draft always is. */
  readonly surely?: number;
  /** How sure new promises must be, in percent, whoever they are for; null: the suppliers' days are believed. */
  readonly confidence?: number | null;
  /** All items of an order that must leave complete, also where all of it is promised: where promises may move. */
  readonly moving?: boolean;
  /** Lines whose drop shipments that leave later than was told are looked at as if the warehouse owed them. */
  readonly slipped?: { readonly lines: readonly number[]; readonly today: string };
}

/**
 * Reads all that decides about some items in one statement, so that the book is of one moment. Its plan does not hang on
 * which items these are, and takes longer to make than the statement to run: the one made first is kept.
 */
export async function readBookRows(db: Db, scope: BookScope): Promise<BookRows> {
  const read = () => bookStatement(scope).execute(db);
  const { rows } = scope.items === undefined ? await read() : await keepPlans(db, read);
  return rows[0]!;
}

/** The statement; exported so that what a promise costs can be measured against it. */
export function bookStatement({ items, draft, surely = draft, confidence, moving = false, slipped }: BookScope): RawBuilder<BookRows> {
  const ofItem = (column: string) => (items ? sql`${sql.ref(column)} = any(array(select item from tied))` : sql`true`);
  return sql<BookRows>`
    with recursive tied(item) as (${items ? tiedItems(items, moving) : sql`select code from item`})
    select
      (select coalesce(json_agg(code order by code), '[]') from item where ${ofItem('code')}) as items,
      (select coalesce(json_agg(w order by code), '[]') from (
        select code, name, workdays, cutoff, receiving_days,
          array(select day::text from closed_day where warehouse = warehouse.code order by day) as closed
        from warehouse) w) as warehouses,
      (select coalesce(json_agg(l), '[]') from (${openLines(ofItem, draft, slipped)}) l) as lines,
      (select coalesce(json_agg(s), '[]') from (${freeStock(ofItem)}) s) as stock,
      (select coalesce(json_agg(p order by p.kind, p.id), '[]') from (${inbound(ofItem)}) p) as inbound,
      (select coalesce(json_agg(r order by r.id), '[]') from (${draftPlans(draft)}) r) as plans,
      ${
        confidence === undefined
          ? sql`(select coalesce(c.confidence, (select (value #>> '{}')::int from desk_setting where name = 'confidence'))
        from sales_order o join customer c on c.id = o.customer_id where o.id = ${surely ?? null}::int)`
          : sql`${confidence}::int`
      } as confidence`;
}

type OfItem = (column: string) => RawBuilder<unknown>;

/** Lines that are owed something, with what was promised of them. */
function openLines(ofItem: OfItem, draft: number | undefined, slipped: BookScope['slipped']): RawBuilder<unknown> {
  return sql`
        select l.id, l.order_id, l.line_no, l.item, l.warehouse,
          ${decimals('l.stock_quantity')} as stock_quantity, ${decimals('l.shipped')} as shipped,
          ${decimals('l.cancelled')} as cancelled, ${decimals('l.reserved')} as reserved,
          l.requested_day, l.alternative, o.number, o.state, o.priority, o.place::float8 as place,
          to_char(o.entered, 'YYYY-MM-DD"T"HH24:MI') as entered, o.ship_complete, o.request_kind, o.requested_day as order_day, c.transit_days,
          case when i.tracks_expiry then i.least_life end as item_life, case when i.tracks_expiry then b.least_life end as customer_life,
          coalesce((select trim_scale(sum(quantity - received - closed))::text from purchase_line where order_line_id = l.id and warehouse is null
            ${slipped ? sql`and not (l.id = any(${slipped.lines}::int[]) and told_day < greatest(expected_day, ${slipped.today}::date))` : sql``}), '0') as drop_ship,
          coalesce((select trim_scale(sum(x.quantity))::text from shipment_line x join shipment s on s.id = x.shipment_id
            where x.order_line_id = l.id and s.state = 'picking'), '0') as picking,
          (select json_agg(json_build_object('day', day, 'quantity', ${decimals('quantity')}) order by day) from line_promise where line_id = l.id) as promised
        from order_line l
        join sales_order o on o.id = l.order_id
        join carrier_service c on c.code = o.carrier_service
        join item i on i.code = l.item
        join customer b on b.id = o.customer_id
        where (o.state = 'released' or o.id = ${draft ?? null}::int) and l.shipped + l.cancelled < l.stock_quantity and ${ofItem('l.item')}
        order by o.entered, o.id, l.line_no`;
}

/** What stands in stock and is not set aside, by lot where it expires. */
function freeStock(ofItem: OfItem): RawBuilder<unknown> {
  return sql`
        select k.item, k.warehouse, trim_scale(k.on_hand)::text as on_hand, trim_scale(k.set_aside)::text as set_aside,
          case when i.tracks_expiry then (select json_agg(json_build_object('expires', e.expires::text, 'quantity', trim_scale(e.quantity)::text)) from (
            select t.expires, sum(p.quantity) as quantity from stock_place p join item_lot t on t.item = p.item and t.lot = p.lot
            where p.item = k.item and p.warehouse = k.warehouse and p.status = 'available' and p.quantity > 0 and t.expires is not null
            group by t.expires) e) end as lots
        from stock k join item i on i.code = k.item
        where k.on_hand > k.set_aside and ${ofItem('k.item')} order by k.item, k.warehouse`;
}

/** What is on its way to a warehouse, by line of its document. */
function inbound(ofItem: OfItem): RawBuilder<unknown> {
  return sql`
        select 'purchase' as kind, p.id, p.purchase_id as document, o.number || '/' || p.line_no as name, o.number, p.item, p.warehouse, p.expected_day, p.first_day,
          p.order_line_id, o.supplier, s.name as origin, trim_scale(p.quantity - p.received - p.closed)::text as open, ${decimals('p.cost')} as cost
        from purchase_line p
        join purchase_order o on o.id = p.purchase_id
        join supplier s on s.code = o.supplier
        where p.firm and p.warehouse is not null and p.received + p.closed < p.quantity and ${ofItem('p.item')}
        union all
        select 'transfer', t.id, t.transfer_id, o.number || '/' || t.line_no, o.number, t.item, o.to_warehouse, o.expected_day, o.first_day,
          t.order_line_id, null, w.name, trim_scale(t.quantity - t.cancelled - t.received - t.lost)::text, null
        from transfer_line t
        join transfer_order o on o.id = t.transfer_id
        join warehouse w on w.code = o.from_warehouse
        where t.cancelled + t.received + t.lost < t.quantity and ${ofItem('t.item')}
        union all
        select 'assembly', a.id, a.id, a.number, a.number, a.item, a.warehouse, a.expected_day, a.first_day,
          a.order_line_id, null, '', trim_scale(a.quantity - a.built - a.cancelled)::text, null
        from assembly_order a
        where a.parent_id is null and a.built + a.cancelled < a.quantity and ${ofItem('a.item')}`;
}

/** What a draft would buy, bring over or assemble once it is released. */
function draftPlans(draft: number | undefined): RawBuilder<unknown> {
  return sql`
        select r.id, r.line_id, r.kind, ${decimals('r.quantity')} as quantity, r.supplier, s.name as supplier_name, r.warehouse, w.name as warehouse_name, l.item, lane.transit_days, r.work_days,
          case when s.code is not null then json_build_object('lead_days', coalesce(i.lead_days, s.lead_days), 'workdays', s.workdays, 'order_days', s.order_days,
            'cutoff', s.cutoff, 'transit_days', s.transit_days, 'closed', array(select day::text from supplier_closed_day where supplier = s.code order by day),
            'not_before', ${owedLate('l.item', 's.code')}) end as terms
        from line_route r
        join order_line l on l.id = r.line_id
        join sales_order o on o.id = l.order_id
        left join supplier s on s.code = r.supplier
        left join supplier_item i on i.supplier = r.supplier and i.item = l.item
        left join warehouse w on w.code = r.warehouse
        left join transfer_lane lane on lane.from_warehouse = r.warehouse and lane.to_warehouse = l.warehouse
        where o.id = ${draft ?? null}::int and o.state <> 'released' and r.kind in ('special_order', 'drop_ship', 'transfer', 'assemble')
          and r.purchase_line_id is null and r.transfer_line_id is null and r.assembly_id is null`;
}

/** The items asked for and those tied to them by orders that must leave complete: that still wait for something, or all. */
function tiedItems(items: readonly string[], moving: boolean): RawBuilder<unknown> {
  return sql`
    select unnest(${items}::text[])
    union
    select other.item
    from tied
    -- Item by item by its index: joined freely, the planner may read every line there is.
    cross join lateral (select order_id from order_line where item = tied.item and shipped + cancelled < stock_quantity offset 0) line
    join sales_order o on o.id = line.order_id and o.state = 'released' and o.ship_complete
    join order_line other on other.order_id = o.id
    where ${moving} or exists (
      select from order_line short
      where short.order_id = o.id
        and short.stock_quantity - short.shipped - short.cancelled > coalesce((select sum(quantity) from line_promise where line_id = short.id), 0)
    )`;
}

/** A number without trailing zeros, as text: JSON would make a binary number of it. */
function decimals(column: string): RawBuilder<string> {
  return sql<string>`trim_scale(${sql.ref(column)})::text`;
}
