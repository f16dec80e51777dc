import { firstShipDay, type IsoDay } from '@nockwright/core/calendar';
import type { WarehouseCode } from '@nockwright/core/ids';
import type { ReadyOrder, ShippingBoard } from '@nockwright/contract/shipping';
import { sql } from 'kysely';
import type { Now } from '../clock';
import { escapeLike, searchWords, together, type Db } from '../database';
import type { PickStop } from '@nockwright/core/shipping';
import { loadWarehouses } from '../promise';
import { loadRules, loadStops } from './pick-rules';
import { readLeavingToday } from './leaving-today';
import { readNotGoing } from './not-going';
import { readShipments } from './read-shipment';

export interface BoardFilter {
  readonly warehouse?: WarehouseCode;
  /** A carrier service. */
  readonly service?: string;
  /** Words: all of them are in the order, its customer, the town or an item. */
  readonly q?: string;
  readonly most?: number;
}

/** So many orders are shown at first. */
const FIRST = 60;

/** What can leave now, as it is kept, by order, warehouse and place, what is due first first; and what is being picked. */
export async function readBoard(db: Db, now: Now, filter: BoardFilter = {}): Promise<ShippingBoard> {
  return together(db, async (all) => {
    const [ready, picking, leaving, notGoing] = await Promise.all([
      readReady(all, now, filter),
      readPicking(all, filter),
      readLeavingToday(all, now, filter.warehouse),
      readNotGoing(all, now, filter.warehouse),
    ]);
    return { ...ready, picking, leaving, notGoing };
  });
}

interface ReadyRow extends Omit<ReadyOrder, 'due' | 'missed' | 'stops' | 'lines'> {
  readonly lines: readonly (ReadyOrder['lines'][number] & { readonly promised: IsoDay | null })[];
}

/** What can leave, with the day it missed, if any: `first` is the first day that anything can still leave on. */
function viewReady({ lines, ...row }: ReadyRow, first: IsoDay, today: IsoDay): Omit<ReadyOrder, 'stops'> {
  const promised = lines.flatMap((line) => line.promised ?? []).sort()[0];
  return {
    ...row,
    lines: lines.map(({ promised: _, ...line }) => line),
    due: row.day <= today,
    missed: promised !== undefined && promised < first ? promised : null,
  };
}

async function readReady(db: Db, now: Now, { warehouse, service, q, most = FIRST }: BoardFilter): Promise<Pick<ShippingBoard, 'ready' | 'count'>> {
  const byService = service === undefined ? sql`` : sql`and exists (select from sales_order k where k.id = b.order_id and k.carrier_service = ${service})`;
  const filter = sql<boolean>`${warehouse === undefined ? sql`true` : sql`b.warehouse = ${warehouse}`} ${byService}
    ${sql.join(
      searchWords(q).map((word) => sql`and b.search like ${`%${escapeLike(word)}%`}`),
      sql` `,
    )}`;
  const [found, totals, rules, warehouses] = await Promise.all([
    sql<ReadyRow>`
      with page as materialized (select * from board_leave b where ${filter} order by b.day, b.entered, b.order_id, b.warehouse, b.place limit ${most}),
      ready as materialized (
        select r.*, coalesce(l.ship_to_id, o.ship_to_id) as place, l.line_no from board_ready r
        join order_line l on l.id = r.line_id join sales_order o on o.id = r.order_id where r.order_id in (select order_id from page)),
      told as (select line_id, min(day)::text as day from line_promise where line_id in (select line_id from ready) group by line_id),
      line as (
        select r.order_id, r.warehouse, r.place,
          json_agg(json_build_object('line', r.line_id, 'lineNo', r.line_no, 'item', r.item, 'description', i.description, 'unit', i.unit,
            'quantity', trim_scale(r.quantity)::text, 'day', r.day, 'promised', t.day) order by r.line_no) as lines
        from ready r join item i on i.code = r.item left join told t on t.line_id = r.line_id group by r.order_id, r.warehouse, r.place)
      select b.order_id as "order", o.number, c.name as customer, c.id as "customerId", p.town, b.warehouse, s.name as carrier, o.ship_complete as "shipComplete", b.day,
        k.lines
      from page b
      join line k on k.order_id = b.order_id and k.warehouse = b.warehouse and k.place = b.place
      join sales_order o on o.id = b.order_id
      join customer c on c.id = o.customer_id
      join carrier_service s on s.code = o.carrier_service
      join ship_to p on p.id = b.place
      order by b.day, b.entered, b.order_id, b.warehouse, b.place`.execute(db),
    sql<{ count: number }>`select count(*) as count from board_leave b where ${filter}`.execute(db),
    loadRules(db),
    loadWarehouses(db),
  ]);
  const firstDays = new Map(warehouses.map((row) => [row.code, firstShipDay(row.book, now.localTime)]));
  const stops = rules.on ? await loadStops(db, rules, [...new Set(found.rows.map((row) => row.order))]) : new Map<number, readonly PickStop[]>();
  return {
    ready: found.rows.map((row) => ({ ...viewReady(row, firstDays.get(row.warehouse) ?? now.today, now.today), stops: stops.get(row.order) ?? [] })),
    count: totals.rows[0]!.count,
  };
}

async function readPicking(db: Db, { warehouse, service }: BoardFilter): Promise<ShippingBoard['picking']> {
  const picking = await db
    .selectFrom('shipment')
    .select('id')
    .where('state', '=', 'picking')
    .$if(warehouse !== undefined, (query) => query.where('warehouse', '=', warehouse!))
    .$if(service !== undefined, (query) => query.where('carrier_service', '=', service!))
    .orderBy('id')
    .execute();
  return readShipments(
    db,
    picking.map((row) => row.id),
  );
}
