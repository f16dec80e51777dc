import {
  billLines,
  invoiceTotals,
  isDue,
  type BilledShipment,
  type BillingRule,
  type BillTo,
  type InvoiceLine,
  type ShippedLine,
} from '@nockwright/core/billing';
import type { BillableRow } from '@nockwright/contract/billing';
import type { IsoDay } from '@nockwright/core/calendar';
import type { CustomerId, OrderId, ShipmentId } from '@nockwright/core/ids';
import { sum, type Amount } from '@nockwright/core/money';
import { sql, type RawBuilder } from 'kysely';
import type { Now } from '../clock';
import { anyOf, escapeLike, searchWords, type Db } from '../database';

/** A shipment that has left and is on no invoice, with who pays for it. */
export interface BillableShipment extends BilledShipment {
  readonly number: string;
  readonly orderNumber: string;
  readonly poNumber: string;
  readonly day: IsoDay;
  readonly currency: string;
  readonly customer: CustomerId;
  readonly billTo: BillTo;
  readonly rule: BillingRule;
  readonly value: Amount | null;
  readonly termsKind: 'net' | 'month_end';
  readonly termsDays: number;
  readonly discountPercent: string;
  readonly discountDays: number;
  readonly firmCountry: string;
}

/** Shipments that have left and are on no invoice, those that left first before the others: one statement, however many there are. */
export async function loadBillable(db: Db, which: RawBuilder<unknown>): Promise<readonly BillableShipment[]> {
  const { rows } = await sql<BillableShipment & { readonly lines: readonly ShippedLine[] }>`
    select s.id as shipment, s.number, s.order_id as "order", coalesce(o.number, '') as "orderNumber", o.po_number as "poNumber", s.shipped_day::text as day,
      o.currency, s.freight_charge::text as freight, c.id as customer, c.billing_rule as rule, c.billing_value::text as value, c.terms_kind as "termsKind",
      o.terms_days as "termsDays", c.discount_percent::text as "discountPercent", c.discount_days as "discountDays", f.country as "firmCountry",
      json_build_object('name', c.name, 'number', c.number, 'street', c.street, 'postcode', c.postcode, 'town', c.town, 'country', c.country, 'taxNumber', c.tax_number) as "billTo",
      (select json_agg(json_build_object('line', l.id, 'lineNo', l.line_no, 'item', l.item, 'description', i.description, 'quantity', trim_scale(x.quantity)::text,
          'unit', l.unit, 'stockingUnit', i.unit, 'numerator', l.numerator, 'denominator', l.denominator, 'price', trim_scale(l.price)::text,
          'percent', trim_scale(t.percent)::text, 'exemption', c.tax_exemption, 'shipToCountry',
          case when exists (select from counter_basket b where b.order_id = o.id) then f.country else p.country end) order by l.line_no)
        from shipment_line x join order_line l on l.id = x.order_line_id join item i on i.code = l.item join tax_class t on t.code = i.tax_class
          join ship_to p on p.id = coalesce(l.ship_to_id, o.ship_to_id)
        where x.shipment_id = s.id) as lines
    from shipment s join sales_order o on o.id = s.order_id join customer c on c.id = o.customer_id cross join firm f
    where s.state = 'shipped' and s.invoice_id is null and ${which}
    order by s.shipped_day, s.id`.execute(db);
  return rows.filter((row) => row.lines !== null);
}

/** The lines of an invoice over shipments of one customer. */
export function linesOf(shipments: readonly BillableShipment[]): readonly InvoiceLine[] {
  const [first] = shipments;
  return first ? billLines(shipments, first.firmCountry, first.currency) : [];
}

/** Shipments of one customer in one currency: what can be on one invoice. */
export function byInvoice(shipments: readonly BillableShipment[]): readonly (readonly BillableShipment[])[] {
  const groups = new Map<string, BillableShipment[]>();
  for (const row of shipments) {
    const key = `${row.customer} ${row.currency}`;
    groups.set(key, [...(groups.get(key) ?? []), row]);
  }
  return [...groups.values()];
}

/** Of shipments of a customer those that are billed today by their rule. */
export function dueOf(shipments: readonly BillableShipment[], today: IsoDay): readonly BillableShipment[] {
  const [first] = shipments;
  if (!first) return [];
  const { rule, value } = first;
  const each = shipments.map((row) => ({ row, amount: netOf([row]) }));
  const total = sum(each.map(({ amount }) => amount));
  if (rule === 'value') return isDue(rule, value, [], total, today) ? shipments : [];
  return shipments.filter((row) => isDue(rule, value, [{ day: row.day, amount: '0' }], total, today));
}

function netOf(shipments: readonly BillableShipment[]): Amount {
  return invoiceTotals(linesOf(shipments), shipments[0]!.currency).net;
}

/** What has left and is on no invoice, by customer, what is due first. */
export async function listBillable(db: Db, { today }: Now, q: string | undefined): Promise<readonly BillableRow[]> {
  const words = searchWords(q).map((word) => {
    const like = `%${escapeLike(word)}%`;
    return sql`and (c.search like ${like} or lower(s.number) like ${like} or lower(o.po_number) like ${like})`;
  });
  const groups = byInvoice(await loadBillable(db, sql`true ${sql.join(words, sql` `)}`));
  return groups
    .map((group): BillableRow => {
      const first = group[0]!;
      return {
        customer: first.billTo.name,
        customerId: first.customer,
        rule: first.rule,
        due: dueOf(group, today).length > 0,
        currency: first.currency,
        net: netOf(group),
        since: first.day,
        shipments: group.map((row) => ({
          id: row.shipment,
          number: row.number,
          order: row.order,
          orderNumber: row.orderNumber,
          poNumber: row.poNumber,
          day: row.day,
          lines: row.lines.length,
          freight: row.freight ?? '0',
          net: netOf([row]),
        })),
      };
    })
    .sort((a, b) => Number(b.due) - Number(a.due) || (a.since < b.since ? -1 : 1));
}

/** The shipments that are named, if all of them can be on one invoice. */
export async function loadChosen(db: Db, shipments: readonly ShipmentId[]): Promise<readonly BillableShipment[]> {
  return loadBillable(db, anyOf('s.id', shipments));
}

/** The orders of shipments. */
export function ordersOf(shipments: readonly { readonly order: OrderId }[]): OrderId[] {
  return [...new Set(shipments.map((row) => row.order))];
}
