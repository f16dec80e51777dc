import { sql, type RawBuilder } from 'kysely';

/** A part of the ledger beside the books it is posted from: `label`, `ledger` and `books` of each thing. */
export interface Check {
  readonly name: string;
  readonly what: string;
  readonly sides: RawBuilder<unknown>;
}

/** What stands on an account, by what. */
const onAccount = (role: string, by: RawBuilder<unknown>, sign: 1 | -1 = 1) => sql`
  select ${by} as label, ${sql.lit(sign)} * sum(l.amount) as amount from ledger_line l join ledger_entry e on e.id = l.entry_id
  where l.account = account_of(${sql.lit(role)}) group by 1`;

/** The ledger and the books, side by side by their labels. */
const beside = (ledger: RawBuilder<unknown>, books: RawBuilder<unknown>) => sql`
  select coalesce(k.label, b.label) as label, coalesce(k.amount, 0) as ledger, coalesce(b.amount, 0) as books
  from (${ledger}) k full join (${books}) b on b.label = k.label`;

export const CHECKS: readonly Check[] = [
  {
    name: 'Debit and credit',
    what: 'All entries together come to nothing.',
    sides: sql`select 'all entries' as label, coalesce(sum(amount), 0) as ledger, 0 as books from ledger_line`,
  },
  {
    name: 'Stock',
    what: 'The account is what the goods of each item and warehouse cost, lot by lot.',
    sides: beside(
      onAccount('stock', sql`l.item || ' at ' || l.warehouse`),
      sql`select item || ' at ' || warehouse as label, sum(value) as amount from stock_value where value <> 0 group by 1`,
    ),
  },
  {
    name: 'Pieces in stock',
    what: 'As many are valued as stand in the bins, lot by lot.',
    sides: sql`
      select coalesce(v.label, p.label) as label, coalesce(v.quantity, 0) as ledger, coalesce(p.quantity, 0) as books
      from (select item || ' at ' || warehouse || case lot when '' then '' else ', lot ' || lot end as label, quantity from stock_value where quantity <> 0) v
        full join (select s.item || ' at ' || s.warehouse || case when i.tracks_lots and s.lot <> '' then ', lot ' || s.lot else '' end as label, sum(s.quantity) as quantity
          from stock_place s join item i on i.code = s.item where s.quantity <> 0 group by 1) p on p.label = v.label`,
  },
  {
    name: 'Goods in transit',
    what: 'What left on transfers and has not come, at what it cost.',
    sides: beside(
      onAccount('in_transit', sql`e.reference`),
      sql`select m.reference as label, -sum(v.value) as amount from stock_movement m join movement_value v on v.movement_id = m.id
        join transfer_order t on t.number = split_part(m.reference, '/', 1)
        join transfer_line l on l.transfer_id = t.id and l.line_no::text = split_part(m.reference, '/', 2) and l.shipped > l.received + l.lost
        where m.kind = 'transfer' group by 1 having sum(v.value) <> 0`,
    ),
  },
  {
    name: 'Assembly in progress',
    what: 'What an assembly used up is in what was assembled: nothing is left between.',
    sides: beside(onAccount('assembly', sql`e.reference`), sql`select '' as label, 0 as amount where false`),
  },
  {
    name: 'Shipped, not billed',
    what: 'What the goods cost that left and are on no invoice.',
    sides: beside(
      sql`select s.number as label, sum(l.amount) as amount from ledger_line l join shipment s on s.id = l.shipment_id
        where l.account = account_of('shipped_not_billed') group by 1 having sum(l.amount) <> 0`,
      sql`select s.number as label, -sum(v.value) as amount from shipment s join stock_movement m on m.reference = s.number and m.kind = 'shipment'
          join movement_value v on v.movement_id = m.id where s.state = 'shipped' and s.invoice_id is null group by 1 having sum(v.value) <> 0
        union all
        select s.number, sum(round(x.quantity * p.cost, money_digits())) from shipment s join shipment_line x on x.shipment_id = s.id
          join purchase_line p on p.purchase_id = s.purchase_id and p.order_line_id = x.order_line_id
          where s.state = 'shipped' and s.invoice_id is null group by 1`,
    ),
  },
  {
    name: 'Received, not invoiced',
    what: 'What suppliers delivered and have not invoiced, purchase by purchase.',
    sides: beside(
      sql`select p.number as label, -sum(l.amount) as amount from ledger_line l join purchase_order p on p.id = l.purchase_id
        where l.account = account_of('received_not_invoiced') group by 1 having sum(l.amount) <> 0`,
      sql`select p.number as label, sum(l.accrued) as amount from purchase_line l join purchase_order p on p.id = l.purchase_id group by 1 having sum(l.accrued) <> 0`,
    ),
  },
  {
    name: 'Payables',
    what: 'What suppliers invoiced that was accepted and is not paid.',
    sides: sql`
      select 'all suppliers' as label, (select coalesce(-sum(amount), 0) from ledger_line where account = account_of('payables')) as ledger,
        (select coalesce(sum(total), 0) from supplier_invoice where state = 'accepted') as books`,
  },
  {
    name: 'Receivables',
    what: 'What is open of invoices, less credit notes that are not used up, customer by customer.',
    sides: beside(
      sql`select c.number || ' ' || c.name as label, sum(l.amount) as amount from ledger_line l join ledger_entry e on e.id = l.entry_id
        join invoice i on i.id = coalesce(e.invoice_id, (select id from invoice k where k.number = e.reference)) join customer c on c.id = i.customer_id
        where l.account = account_of('receivables') group by 1`,
      sql`select c.number || ' ' || c.name as label, sum(case i.kind when 'invoice' then i.amount - i.paid else i.paid - i.amount end) as amount
        from invoice i join customer c on c.id = i.customer_id group by 1`,
    ),
  },
  {
    name: 'Payments on account',
    what: 'What customers paid that went to no invoice.',
    sides: sql`
      select 'all payments' as label, (select coalesce(-sum(amount), 0) from ledger_line where account = account_of('on_account')) as ledger,
        (select coalesce(sum(amount - applied), 0) from payment where reversed_at is null) as books`,
  },
  {
    name: 'Output tax',
    what: 'The tax of invoices, less that of credit notes and discounts, rate by rate.',
    sides: beside(
      onAccount('output_tax', sql`l.category || ' ' || l.percent || ' %'`, -1),
      sql`select category || ' ' || percent || ' %' as label, sum(tax) as amount from (
          select t.category, t.percent, case i.kind when 'invoice' then t.tax else -t.tax end as tax from invoice_tax t join invoice i on i.id = t.invoice_id
          union all
          select t.category, t.percent, -t.tax from (select invoice_id, sum(amount) as amount from settlement where kind = 'discount' group by 1) d
            cross join lateral discount_tax(d.invoice_id, d.amount) t) k
        group by 1 having sum(tax) <> 0`,
    ),
  },
  {
    name: 'Contract usage',
    what: 'What is used of a contract line is what released orders bought under it, in stocking units.',
    sides: sql`
      select c.number || ' line ' || k.line_no as label, k.used as ledger,
        coalesce((select sum(l.stock_quantity - l.cancelled) from order_line l join sales_order o on o.id = l.order_id
          where l.contract_line_id = k.id and o.state = 'released'), 0) as books
      from contract_line k join contract c on c.id = k.contract_id where k.used <> 0`,
  },
];
