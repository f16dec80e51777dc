import type { BillTo, TaxTotal, ToldInvoice } from '@nockwright/core/billing';
import type { IsoDay } from '@nockwright/core/calendar';
import type { CustomerId, ItemCode, OrderId } from '@nockwright/core/ids';
import { roundMoney } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { Db } from '../database';
import type { ToldInvoicePaper } from '../documents';
import { loadFirm } from '../firm';
import { notFound } from '../http/refusal';

type Line = ToldInvoice['lines'][number] & ToldInvoicePaper['beside'][number];

interface Row {
  readonly id: number;
  readonly kind: ToldInvoice['kind'];
  readonly number: string;
  readonly customerId: CustomerId;
  readonly customer: string;
  readonly day: IsoDay;
  readonly dueDay: IsoDay;
  readonly currency: string;
  readonly terms: string;
  readonly reference: string;
  readonly net: string | null;
  readonly tax: string;
  readonly total: string;
  readonly paid: string;
  readonly reason: string;
  readonly discountPercent: string;
  readonly discountUntil: IsoDay | null;
  readonly billTo: BillTo | null;
  readonly credits: { readonly id: number; readonly number: string; readonly day: IsoDay } | null;
  readonly lines: readonly (Line & {
    readonly key: number;
    readonly lineNo: number;
    readonly kind: 'goods' | 'freight';
    readonly orderId: OrderId | null;
    readonly itemCode: ItemCode | null;
    readonly credited: string;
  })[];
  readonly taxes: readonly TaxTotal[];
}

/** An invoice or a credit note with all that was said of it: one statement. */
export async function loadTold(db: Db, id: number): Promise<Row> {
  const { rows } = await sql<Row>`
    select i.id, i.kind, i.number, i.customer_id as "customerId", c.name as customer, i.day::text as day, i.due_day::text as "dueDay", i.currency, i.terms, i.reference,
      i.net::text as net, i.tax::text as tax, i.amount::text as total, i.paid::text as paid, i.reason, i.discount_percent::text as "discountPercent",
      i.discount_until::text as "discountUntil", i.bill_to as "billTo",
      case when b.id is not null then json_build_object('id', b.id, 'number', b.number, 'day', b.day::text) end as credits,
      (select coalesce(json_agg(json_build_object('key', l.id, 'id', l.line_no::text, 'lineNo', l.line_no, 'kind', l.kind, 'text', l.text, 'quantity', trim_scale(l.quantity)::text,
          'unit', l.unit, 'price', trim_scale(l.price)::text, 'amount', l.amount::text, 'category', l.category, 'percent', trim_scale(l.percent)::text, 'reason', l.tax_reason,
          'item', coalesce(l.item, ''), 'itemCode', l.item, 'theirCode', coalesce(k.code, ''), 'order', coalesce(o.number, ''), 'orderId', l.order_id, 'poNumber', coalesce(o.po_number, ''),
          'shipment', coalesce(s.number, ''), 'shippedDay', s.shipped_day::text, 'tracking', coalesce(s.tracking, ''),
          'contract', coalesce((select 'contract ' || t.number from order_line x join contract_line y on y.id = x.contract_line_id join contract t on t.id = y.contract_id where x.id = l.order_line_id), ''),
          'credited', coalesce((select sum(x.amount)::text from invoice_line x where x.credits_id = l.id), '0')) order by l.line_no), '[]')
        from invoice_line l left join sales_order o on o.id = l.order_id left join shipment s on s.id = l.shipment_id
          left join customer_item k on k.customer_id = i.customer_id and k.item = l.item
        where l.invoice_id = i.id) as lines,
      (select coalesce(json_agg(json_build_object('category', t.category, 'percent', trim_scale(t.percent)::text, 'reason', t.reason, 'base', t.base::text, 'tax', t.tax::text)
          order by t.percent desc, t.category), '[]') from invoice_tax t where t.invoice_id = i.id) as taxes
    from invoice i join customer c on c.id = i.customer_id left join invoice b on b.id = i.credits_id where i.id = ${id}`.execute(db);
  const [row] = rows;
  if (!row) throw notFound(`invoice ${id}`);
  // Amounts are written as their currency has them.
  const money = (amount: string) => roundMoney(amount, row.currency);
  return {
    ...row,
    net: row.net === null ? null : money(row.net),
    tax: money(row.tax),
    total: money(row.total),
    paid: money(row.paid),
    lines: row.lines.map((line) => ({ ...line, amount: money(line.amount), credited: money(line.credited) })),
    taxes: row.taxes.map((tax) => ({ ...tax, base: money(tax.base), tax: money(tax.tax) })),
  };
}

/** The same as it is told to others. */
export async function toldOf(db: Db, id: number): Promise<ToldInvoice> {
  return asTold(await loadTold(db, id), await loadFirm(db));
}

export function asTold(row: Row, firm: { readonly name: string; readonly tax_number: string; readonly country: string }): ToldInvoice {
  const { kind, number, day, dueDay, currency, terms, reference, credits, lines, taxes, tax, total, paid } = row;
  return {
    kind,
    number,
    day,
    dueDay,
    currency,
    terms,
    reference,
    credits: credits && { number: credits.number, day: credits.day },
    lines,
    taxes,
    net: row.net ?? total,
    tax,
    total,
    paid,
    seller: { name: firm.name, taxNumber: firm.tax_number, country: firm.country },
    buyer: { name: row.billTo?.name ?? row.customer, country: row.billTo?.country ?? firm.country },
  };
}

/** What is drawn of it. */
export async function paperOf(db: Db, id: number): Promise<ToldInvoicePaper> {
  const [row, firm] = [await loadTold(db, id), await loadFirm(db)];
  const nobody = { name: row.customer, number: '', street: '', postcode: '', town: '', country: '', taxNumber: '' };
  return {
    firm,
    invoice: asTold(row, firm),
    billTo: row.billTo ?? nobody,
    discountUntil: row.discountUntil,
    discountPercent: row.discountPercent,
    reason: row.reason,
    beside: row.lines,
  };
}
