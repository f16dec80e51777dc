import type { SupplierInvoiceView } from '@nockwright/contract/payables';
import type { PurchaseLineId, SupplierCode } from '@nockwright/core/ids';
import { roundMoney } from '@nockwright/core/money';
import { matchInvoice } from '@nockwright/core/payables';
import { sql } from 'kysely';
import type { Db } from '../database';
import { notFound } from '../http/refusal';

type Line = SupplierInvoiceView['lines'][number];

interface Row extends Omit<SupplierInvoiceView, 'lines' | 'findings' | 'acceptable'> {
  readonly lines: readonly Line[];
  readonly tolerance: string;
  readonly agreedFreight: string | null;
}

/** What the freight of a supplier is, for an invoice over goods of so much: nothing from a value on; null: none was agreed. */
const AGREED = sql`case when s.freight = 0 then null when s.freight_free_from is not null and i.net >= s.freight_free_from then 0 else s.freight end`;

/** A supplier's invoice, matched with what was ordered and what came as both stand now. */
export async function readSupplierInvoice(db: Db, id: number): Promise<SupplierInvoiceView> {
  const { rows } = await sql<Row>`
    select i.id, i.version, i.supplier, s.name, i.number, i.day::text as day, i.due_day::text as "dueDay", firm_currency() as currency, i.net::text as net,
      i.freight::text as freight, i.tax::text as tax, i.total::text as total, i.state, i.file, i.reason, i.paid_day::text as "paidDay",
      trim_scale(s.price_tolerance)::text as tolerance, (${AGREED})::text as "agreedFreight",
      (select json_agg(json_build_object('lineNo', k.line_no, 'purchase', p.id, 'purchaseNumber', p.number, 'item', l.item, 'description', t.description, 'unit', t.unit,
          'quantity', trim_scale(k.quantity)::text, 'price', trim_scale(k.price)::text, 'amount', k.amount::text, 'cost', trim_scale(l.cost)::text,
          'received', trim_scale(l.received + l.damaged)::text,
          'invoiced', trim_scale(l.invoiced - case when i.state in ('accepted', 'paid') then k.quantity else 0 end)::text) order by k.line_no)
        from supplier_invoice_line k join purchase_line l on l.id = k.purchase_line_id join purchase_order p on p.id = l.purchase_id join item t on t.code = l.item
        where k.invoice_id = i.id) as lines
    from supplier_invoice i join supplier s on s.code = i.supplier where i.id = ${id}`.execute(db);
  const [row] = rows;
  if (!row) throw notFound(`supplier invoice ${id}`);
  const { tolerance, agreedFreight, ...view } = row;
  const { currency } = view;
  const money = (value: string) => roundMoney(value, currency);
  const { findings, acceptable } = matchInvoice({ ...view, agreedFreight, tolerance });
  return {
    ...view,
    net: money(view.net),
    freight: money(view.freight),
    tax: money(view.tax),
    total: money(view.total),
    lines: view.lines.map((line) => ({ ...line, amount: money(line.amount) })),
    findings: [...findings],
    acceptable: acceptable && view.state === 'held',
  };
}

/** What came from a supplier and is on no invoice, the oldest purchase first. */
export async function listInvoiceable(db: Db, supplier: SupplierCode) {
  const known = await db.selectFrom('supplier').select('code').where('code', '=', supplier).executeTakeFirst();
  if (!known) throw notFound(`supplier ${supplier}`);
  const { rows } = await sql<{
    line: PurchaseLineId;
    purchase: number;
    purchaseNumber: string;
    item: string;
    description: string;
    unit: string;
    quantity: string;
    cost: string;
  }>`
    select l.id as line, p.id as purchase, p.number as "purchaseNumber", l.item, i.description, i.unit,
      trim_scale(l.received + l.damaged - l.invoiced)::text as quantity, trim_scale(l.cost)::text as cost
    from purchase_line l join purchase_order p on p.id = l.purchase_id join item i on i.code = l.item
    where p.supplier = ${supplier} and l.received + l.damaged > l.invoiced order by p.id, l.line_no limit 500`.execute(db);
  return rows;
}
