import type { MoneyView, PaymentView } from '@nockwright/contract/billing';
import { dayNumber } from '@nockwright/core/calendar';
import type { CustomerId } from '@nockwright/core/ids';
import { minus, roundMoney, sum } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { Now } from '../clock';
import type { Db } from '../database';
import { notFound } from '../http/refusal';
import { discountFor, loadOpen } from './open-invoices';

const AGES = [
  { name: 'Not due', from: -Infinity, to: 0 },
  { name: '1 to 30 days', from: 1, to: 30 },
  { name: '31 to 60 days', from: 31, to: 60 },
  { name: '61 to 90 days', from: 61, to: 90 },
  { name: 'Over 90 days', from: 91, to: Infinity },
] as const;
const PAYMENTS = 60;

/** What a customer owes by age and invoice, what they paid, and how they are billed. */
export async function readMoney(db: Db, { today }: Now, id: CustomerId): Promise<MoneyView> {
  const customer = await db.selectFrom('customer').selectAll().where('id', '=', id).executeTakeFirst();
  if (!customer) throw notFound(`customer ${id}`);
  const { currency } = await db.selectFrom('firm').select('currency').executeTakeFirstOrThrow();
  const money = (amount: string) => roundMoney(amount, currency);
  const open = await loadOpen(db, id);
  const { rows: credits } = await sql<MoneyView['credits'][number]>`
    select id, number, day::text as day, (amount - paid)::text as open from invoice
    where customer_id = ${id} and kind = 'credit_note' and paid < amount order by id`.execute(db);
  const payments = await loadPayments(db, id, money);
  const held = await loadHeld(db, id);
  const refunds = await loadRefunds(db, id);
  const {
    rows: [account],
  } = await sql<{ left: string }>`
    select coalesce(sum(amount - applied), 0)::text as left from payment where customer_id = ${id} and reversed_at is null and applied < amount`.execute(db);
  const onAccount = money(account!.left);
  const discount = discountFor(today);
  return {
    customerId: id,
    number: customer.number,
    name: customer.name,
    currency,
    balance: money(minus(minus(sum(open.map((row) => row.open)), sum(credits.map((row) => row.open))), onAccount)),
    onAccount,
    ages: AGES.map(({ name, from, to }) => {
      const own = open.filter((row) => {
        const late = dayNumber(today) - dayNumber(row.dueDay);
        return late >= from && late <= to;
      });
      return { name, amount: money(sum(own.map((row) => row.open))) };
    }),
    invoices: open.map((row) => ({
      id: row.id,
      number: row.number,
      day: row.day,
      dueDay: row.dueDay,
      total: row.total,
      open: row.open,
      overdue: row.dueDay < today,
      discount: money(discount(row)),
      discountUntil: row.discountUntil,
    })),
    credits: credits.map((row) => ({ ...row, open: money(row.open) })),
    payments,
    held: held.map((row) => ({ ...row, total: money(row.total) })),
    refunds: refunds.map((row) => ({ ...row, amount: money(row.amount) })),
    terms: {
      version: customer.version,
      billingRule: customer.billing_rule,
      billingValue: customer.billing_value,
      termsKind: customer.terms_kind,
      termsDays: customer.terms_days,
      discountPercent: String(Number(customer.discount_percent)),
      discountDays: customer.discount_days,
      taxNumber: customer.tax_number,
      taxExemption: customer.tax_exemption,
    },
  };
}

/** Orders that credit holds, the longest held first. */
async function loadHeld(db: Db, id: CustomerId): Promise<MoneyView['held']> {
  const { rows } = await sql<MoneyView['held'][number]>`
    select o.id, coalesce(o.number, 'draft ' || o.id) as number, min(h.placed_at)::date::text as since, s.amount::text as total
    from order_hold h join sales_order o on o.id = h.order_id join order_standing s on s.order_id = o.id
    where o.customer_id = ${id} and h.kind = 'credit' and h.cleared_at is null and o.state in ('draft', 'released')
    group by o.id, o.number, s.amount order by min(h.placed_at), o.id limit ${PAYMENTS}`.execute(db);
  return rows;
}

async function loadRefunds(db: Db, id: CustomerId): Promise<MoneyView['refunds']> {
  const { rows } = await sql<MoneyView['refunds'][number]>`
    select r.id, r.day::text as day, r.method, r.amount::text as amount, r.reason, coalesce('credit note ' || i.number, 'what was on account') as of
    from refund r left join invoice i on i.id = r.credit_note_id where r.customer_id = ${id} order by r.id desc limit ${PAYMENTS}`.execute(db);
  return rows;
}

async function loadPayments(db: Db, id: CustomerId, money: (amount: string) => string): Promise<readonly PaymentView[]> {
  const { rows } = await sql<PaymentView>`
    select p.id, p.day::text as day, p.method, p.amount::text as amount, case when p.reversed_at is null then (p.amount - p.applied)::text else '0' end as "onAccount",
      p.reference, p.reversed_why as reversed,
      (select json_build_object('id', o.id, 'number', coalesce(o.number, 'draft ' || o.id)) from sales_order o where o.id = p.order_id) as "order",
      (select coalesce(json_agg(json_build_object('id', i.id, 'number', i.number, 'amount', k.amount::text) order by i.id), '[]')
        from (select invoice_id, sum(amount) as amount from settlement where payment_id = p.id and kind = 'payment' group by 1 having sum(amount) > 0) k
          join invoice i on i.id = k.invoice_id) as invoices
    from payment p where p.customer_id = ${id} order by p.day desc, p.id desc limit ${PAYMENTS}`.execute(db);
  return rows.map((row) => ({
    ...row,
    amount: money(row.amount),
    onAccount: money(row.onAccount),
    invoices: row.invoices.map((one) => ({ ...one, amount: money(one.amount) })),
  }));
}
