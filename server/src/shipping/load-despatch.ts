import type { IsoDay } from '@nockwright/core/calendar';
import type { ItemCode, LineId } from '@nockwright/core/ids';
import type { Quantity } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { Db } from '../database';

/** What the customer of a consignment is told beside what is in it. */
export interface DespatchFactsRow {
  readonly email: string;
  readonly contact: string;
  readonly warehouse: string;
  readonly transit_days: number;
  readonly firm: string;
  /** Lines of the same orders that are still open, with the days promised. */
  readonly follows: readonly {
    readonly line: LineId;
    readonly order: string;
    readonly item: ItemCode;
    readonly theirs: string;
    readonly description: string;
    readonly unit: string;
    readonly open: Quantity;
    readonly promised: readonly { readonly day: IsoDay; readonly quantity: Quantity }[];
  }[];
}

export async function loadDespatch(db: Db, consignment: number, orders: readonly number[]): Promise<DespatchFactsRow> {
  const { rows } = await sql<DespatchFactsRow>`
    select c.email, c.contact, w.name as warehouse, f.transit_days, (select name from firm) as firm,
      (select coalesce(json_agg(k order by k."order", k.line), '[]') from (
        select l.id as line, o.number as "order", l.item, coalesce(n.code, l.item) as theirs, i.description, i.unit,
          trim_scale(l.stock_quantity - l.shipped - l.cancelled)::text as open,
          (select coalesce(json_agg(json_build_object('day', p.day::text, 'quantity', trim_scale(p.quantity)::text) order by p.day), '[]')
            from line_promise p where p.line_id = l.id) as promised
        from order_line l join sales_order o on o.id = l.order_id join item i on i.code = l.item
          left join customer_item n on n.customer_id = o.customer_id and n.item = l.item
        where o.id = any(${orders}::int[]) and l.shipped + l.cancelled < l.stock_quantity) k) as follows
    from consignment g join customer c on c.id = g.customer_id join warehouse w on w.code = g.warehouse join carrier_service f on f.code = g.carrier_service
    where g.id = ${consignment}`.execute(db);
  return rows[0]!;
}
