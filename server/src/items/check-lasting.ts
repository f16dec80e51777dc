import type { ItemCode, WarehouseCode } from '@nockwright/core/ids';
import { compareDecimal } from '@nockwright/core/money';
import { shortDay } from '@nockwright/core/calendar';
import { sql } from 'kysely';
import type { Db } from '../database';
import { Refusal } from '../http/refusal';

/** Goods that are to leave a warehouse, and the day until which they must last. */
export interface Leaving {
  readonly item: ItemCode;
  readonly warehouse: WarehouseCode;
  readonly quantity: string;
  readonly until: string;
  /** What of a document it is: `Line 2`. */
  readonly label: string;
}

interface Lasting {
  readonly at: number;
  readonly lasts: string;
  readonly spoilt: readonly { readonly lot: string; readonly expires: string; readonly quantity: string }[] | null;
}

/** Refuses where goods that leave have expired, or do not last as long as they must; says which lots, and what to do. */
export async function checkLasting(db: Db, leaving: readonly Leaving[], today: string): Promise<void> {
  if (leaving.length === 0) return;
  const { rows } = await sql<Lasting>`
    select w.at::int as at,
      trim_scale(coalesce(sum(s.quantity) filter (where l.expires is null or l.expires >= w.until), 0))::text as lasts,
      json_agg(json_build_object('lot', s.lot, 'expires', l.expires::text, 'quantity', trim_scale(s.quantity)::text) order by l.expires, s.lot)
        filter (where l.expires < w.until) as spoilt
    from unnest(${leaving.map((row) => row.item)}::text[], ${leaving.map((row) => row.warehouse)}::text[], ${leaving.map((row) => row.until)}::date[])
      with ordinality as w(item, warehouse, until, at)
    left join stock_place s on s.item = w.item and s.warehouse = w.warehouse and s.status = 'available' and s.quantity > 0
    left join item_lot l on l.item = s.item and l.lot = s.lot
    group by w.at`.execute(db);
  const faults = rows.flatMap(({ at, lasts, spoilt }) => {
    const { item, quantity, until, label } = leaving[at - 1]!;
    if (spoilt === null || compareDecimal(lasts, quantity) >= 0) return [];
    const lots = spoilt.map((lot) => `${lot.quantity} of lot ${lot.lot} ${lot.expires < today ? 'expired' : 'expire'} ${shortDay(lot.expires, today)}`);
    const needs = until > today ? `, and they must last until ${shortDay(until, today)}` : '';
    return [`${label}, ${item}: ${lots.join(', ')}${needs}. ${lasts} of ${quantity} can leave`];
  });
  if (faults.length > 0) throw new Refusal('conflict', `${faults.join('. ')}. Return the pick to stock, or correct the lot. Nothing was done.`);
}
