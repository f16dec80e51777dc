import { FILL } from '@nockwright/core/packing';
import type { LeavingRow } from '@nockwright/contract/shipping';
import { sql } from 'kysely';
import type { Now } from '../clock';
import type { Db } from '../database';

/** Until past picks say otherwise, a line takes so many minutes from bin to carton. Common practice, no source. */
const MINUTES_A_LINE = 3;

/** What leaves today by warehouse, carrier service and cut-off: shipments, lines, weight, cartons foreseen and work that is left. */
export async function readLeavingToday(db: Db, now: Now, warehouse: string | undefined): Promise<LeavingRow[]> {
  const { rows } = await sql<LeavingRow>`
    with pace as (
      select least(greatest(coalesce(avg(extract(epoch from done - made_at) / 60 / lines), ${MINUTES_A_LINE}), 0.5), 15) as minutes from (
        select g.made_at, k.done, p.lines from (select id, made_at from consignment order by id desc limit 200) g
        join (select consignment_id, max(closed_at) as done from carton
          where consignment_id > coalesce((select max(id) from consignment), 0) - 400 group by 1) k on k.consignment_id = g.id
        join (select s.consignment_id, count(*) as lines from pick_part p join shipment s on s.id = p.shipment_id
          where s.consignment_id > coalesce((select max(id) from consignment), 0) - 400 group by 1) p on p.consignment_id = g.id) past
      where done > made_at and lines > 0 and done - made_at < interval '8 hours'),
    wanted as (
      select b.warehouse, o.carrier_service, 'ready' as stage, b.order_id::text || '/' || b.place as key, r.line_id as line, r.quantity
      from board_leave b join sales_order o on o.id = b.order_id join board_ready r on r.order_id = b.order_id and r.warehouse = b.warehouse
      where b.day <= ${now.today}
      union all
      select s.warehouse, s.carrier_service, 'picking', 's' || s.id, x.order_line_id, x.quantity from shipment s join shipment_line x on x.shipment_id = s.id where s.state = 'picking'),
    carton as (select coalesce(max(length_cm * width_cm * height_cm), 1) as volume from carton_type where code <> 'OWN'),
    parcels as (
      select w.warehouse, w.carrier_service, w.stage, w.key, count(*) as lines, sum(w.quantity * i.weight) as weight,
        ceil(greatest(1, sum(w.quantity * coalesce(i.length_cm * i.width_cm * i.height_cm, 0)) / (carton.volume * ${FILL}))) as cartons
      from wanted w join order_line l on l.id = w.line join item i on i.code = l.item cross join carton
      where ${warehouse ?? null}::text is null or w.warehouse = ${warehouse ?? null}
      group by w.warehouse, w.carrier_service, w.stage, w.key, carton.volume)
    select p.warehouse, f.code as service, f.name as carrier, coalesce(f.cutoff, h.cutoff) as cutoff,
      count(*) filter (where p.stage = 'ready')::int as ready, count(*) filter (where p.stage = 'picking')::int as picking, sum(p.lines)::int as lines,
      round(sum(p.weight), 1)::text as weight, sum(p.cartons)::int as cartons, ceil(sum(p.lines) * (select minutes from pace))::int as minutes
    from parcels p join carrier_service f on f.code = p.carrier_service join warehouse h on h.code = p.warehouse
    group by p.warehouse, f.code, h.cutoff order by p.warehouse, coalesce(f.cutoff, h.cutoff) nulls last, f.name`.execute(db);
  return rows;
}
