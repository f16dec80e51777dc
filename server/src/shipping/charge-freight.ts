import { freightCharges, type FreightTerms } from '@nockwright/core/freight';
import type { ShipmentId } from '@nockwright/core/ids';
import { sum, times, type Amount } from '@nockwright/core/money';
import { sql } from 'kysely';
import { anyOf, type Trx } from '../database';
import type { Consignment } from './read-consignment';

/** Writes what the customer pays for the freight of shipments that leave now. */
export async function chargeFreight(trx: Trx, consignment: Consignment, shipments: readonly { readonly id: ShipmentId }[]): Promise<void> {
  if (consignment.head.rule === 'included') return;
  const ids = shipments.map((row) => row.id);
  const { rows } = await sql<FreightTerms & { shipment: number; orderValue: Amount; charged: boolean }>`
    select s.id as shipment, c.freight_rule as rule, c.freight_flat::text as flat, c.freight_free_from::text as "freeFrom",
      coalesce((select sum(round((l.stock_quantity - l.cancelled) * l.price * l.denominator / l.numerator, 2)) from order_line l where l.order_id = s.order_id), 0)::text as "orderValue",
      exists (select from shipment o where o.order_id = s.order_id and o.id <> s.id and o.state = 'shipped' and o.freight_charge > 0 and o.id <> all(${ids})) as charged
    from shipment s join sales_order o on o.id = s.order_id join customer c on c.id = o.customer_id where ${anyOf('s.id', ids)} order by s.id`.execute(trx);
  const first = rows[0];
  if (!first) return;
  const weight = (shipment: number) => sum(consignment.parts.filter((part) => part.shipment === shipment).map((part) => times(part.quantity, part.weight)));
  const charges = freightCharges(
    first,
    consignment.label?.cost ?? '0',
    rows.map((row) => ({ ...row, weight: weight(row.shipment) })),
    consignment.head.currency,
  );
  await sql`update shipment s set freight_charge = k.charge from unnest(${[...charges.keys()]}::int[], ${[...charges.values()]}::numeric[]) as k(id, charge)
    where s.id = k.id`.execute(trx);
}
