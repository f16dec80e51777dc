import { proposeSettlement, settlementFaults, type Settled } from '@nockwright/core/billing';
import type { MoneyView, paymentRoutes } from '@nockwright/contract/billing';
import type { BodyOf } from '@nockwright/contract/shape';
import type { IsoDay } from '@nockwright/core/calendar';
import type { CustomerId, OrderId } from '@nockwright/core/ids';
import { compareDecimal, least, minus, roundMoney, sum, type Amount } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { Now } from '../clock';
import { anyOf, insertRows, type Db, type Trx } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { lockPayer } from './lock-payer';
import { discountFor, loadOpen, type OpenRow } from './open-invoices';
import { readMoney } from './read-money';

/** Where a payment would go: the invoice it fits to the cent, or those due first. */
export async function proposePayment(db: Db, { today }: Now, customer: CustomerId, amount: Amount, day: IsoDay = today) {
  const open = await loadOpen(db, customer);
  const { settled, onAccount } = proposeSettlement(amount, open, discountFor(day));
  const money = (value: string) => roundMoney(value, open[0]?.currency ?? 'EUR');
  return { settled: settled.map((row) => ({ ...row, amount: money(row.amount), discount: money(row.discount) })), onAccount: money(onAccount) };
}

/** Records a payment and where it goes; what is left of it stays on account. */
export async function recordPayment(context: CommandContext, customer: CustomerId, body: BodyOf<typeof paymentRoutes.recordPayment>): Promise<MoneyView> {
  const { trx, now } = context;
  const { day, method, amount, settled } = body;
  await lockPayer(trx, customer);
  if (compareDecimal(amount, '0') <= 0) throw invalid('body.amount', `expected an amount above 0, got ${amount}`);
  if (day > now.today) throw invalid('body.day', `${day} has not come yet`);
  const open = await loadOpen(trx, customer);
  checkSettled(amount, open, settled, day);
  const order = body.order ? await orderFor(trx, customer, body.order) : null;
  await storePaid(context, customer, body, order);
  const onAccount = minus(amount, sum(settled.map((row) => row.amount)));
  const discount = sum(settled.map((row) => row.discount));
  await recordEvent(context, {
    kind: 'payment.recorded',
    facts: {
      ...(await whoOf(trx, customer)),
      amount,
      method,
      day,
      invoices: numbersOf(open, settled),
      discount,
      onAccount,
      ...(order === null ? {} : { order: body.order! }),
    },
    subjects: [...subjectsOf(customer, settled), ...(order === null ? [] : [{ kind: 'order' as const, key: order }])],
  });
  return readMoney(trx, now, customer);
}

/** The order of a customer that a deposit is for. */
async function orderFor(trx: Trx, customer: CustomerId, number: string): Promise<OrderId> {
  const row = await trx.selectFrom('sales_order').select(['id', 'customer_id', 'state']).where('number', '=', number.trim()).executeTakeFirst();
  if (row?.customer_id !== customer) throw invalid('body.order', `this customer has no order ${number.trim()}`);
  return row.id;
}

/** Settles an invoice with what was paid for its orders and is on account, the oldest payment first. The customer must be locked. */
export async function drawDeposits(context: CommandContext, invoice: number, orders: readonly OrderId[], total: Amount): Promise<void> {
  const { trx } = context;
  const rows = await trx
    .selectFrom('payment')
    .select(['id', 'amount', 'applied'])
    .where(anyOf('order_id', orders))
    .where('reversed_at', 'is', null)
    .whereRef('applied', '<', 'amount')
    .orderBy('id')
    .execute();
  let left = total;
  for (const row of rows) {
    const amount = least(left, minus(row.amount, row.applied));
    if (compareDecimal(amount, '0') > 0) await settle(context, [{ invoice, amount, discount: '0' }], { payment: row.id });
    left = minus(left, amount);
  }
}

/** Writes a payment and what it settles; gives its id. The customer must be locked. */
export async function storePaid(
  context: CommandContext,
  customer: CustomerId,
  paid: BodyOf<typeof paymentRoutes.recordPayment>,
  order: OrderId | null = null,
): Promise<number> {
  const { trx, now, user } = context;
  const { settled, order: _, ...row } = paid;
  const { id } = await trx
    .insertInto('payment')
    .values({ ...row, customer_id: customer, order_id: order, made_at: now.instant, made_by: user.id })
    .returning('id')
    .executeTakeFirstOrThrow();
  await settle(context, settled, { payment: id });
  return id;
}

/** Refuses what a payment is said to settle, where it cannot: `settled[1].amount: …`. The customer must be locked. */
export async function checkPaid(
  trx: Trx,
  customer: CustomerId,
  paid: { readonly amount: Amount; readonly day: IsoDay },
  settled: readonly Settled[],
): Promise<void> {
  checkSettled(paid.amount, await loadOpen(trx, customer), settled, paid.day);
}

/** Settles invoices with what of a payment is on account. */
export async function applyPayment(context: CommandContext, id: number, { settled }: BodyOf<typeof paymentRoutes.applyPayment>): Promise<MoneyView> {
  const { trx, now } = context;
  const payment = await lockPayment(trx, id);
  const left = minus(payment.amount, payment.applied);
  if (payment.reversed_at !== null) throw new Refusal('conflict', 'This payment was reversed.');
  const open = await loadOpen(trx, payment.customer_id);
  checkSettled(left, open, settled, payment.day);
  await settle(context, settled, { payment: id });
  await recordEvent(context, {
    kind: 'payment.applied',
    facts: { ...(await whoOf(trx, payment.customer_id)), amount: sum(settled.map((row) => row.amount)), invoices: numbersOf(open, settled) },
    subjects: subjectsOf(payment.customer_id, settled),
  });
  return readMoney(trx, now, payment.customer_id);
}

/** Settles open invoices with what is left of a credit note. */
export async function applyCredit(context: CommandContext, id: number, { settled }: BodyOf<typeof paymentRoutes.applyCredit>): Promise<MoneyView> {
  const { trx, now } = context;
  const find = () => trx.selectFrom('invoice').selectAll().where('id', '=', id).where('kind', '=', 'credit_note').executeTakeFirst();
  const known = await find();
  if (!known) throw notFound(`credit note ${id}`);
  await lockPayer(trx, known.customer_id);
  const note = (await find())!;
  const wrong = settled.findIndex((row) => compareDecimal(row.discount, '0') > 0);
  if (wrong >= 0) throw invalid(`body.settled[${wrong}].discount`, 'a discount is taken with a payment only');
  const open = await loadOpen(trx, note.customer_id);
  checkSettled(minus(note.amount, note.paid), open, settled, now.today);
  await settle(context, settled, { note: id });
  await recordEvent(context, {
    kind: 'credit_note.applied',
    facts: { number: note.number, amount: sum(settled.map((row) => row.amount)), currency: note.currency, invoices: numbersOf(open, settled) },
    subjects: [...subjectsOf(note.customer_id, settled), { kind: 'invoice', key: id }],
  });
  return readMoney(trx, now, note.customer_id);
}

/** A payment did not come in after all: what it settled, discounts too, is open again. */
export async function reversePayment(
  context: CommandContext,
  id: number,
  { reason, chargeback = false, fee = '0' }: BodyOf<typeof paymentRoutes.reversePayment>,
): Promise<MoneyView> {
  const { trx, now, user } = context;
  const payment = await lockPayment(trx, id);
  if (payment.reversed_at !== null) throw new Refusal('conflict', 'This payment was reversed already.');
  if (await trx.selectFrom('refund').select('id').where('payment_id', '=', id).executeTakeFirst())
    throw new Refusal('conflict', 'A part of this payment was given back: it cannot be reversed.');
  await sql`insert into settlement (invoice_id, kind, payment_id, amount, reason, made_at, made_by)
    select invoice_id, kind, payment_id, -sum(amount), ${reason}, ${now.instant}::timestamptz, ${user.id}::int from settlement where payment_id = ${id}
    group by invoice_id, kind, payment_id having sum(amount) <> 0`.execute(trx);
  await trx.updateTable('payment').set({ reversed_at: now.instant, reversed_why: reason, chargeback, bank_fee: fee }).where('id', '=', id).execute();
  // What was booked for the wrong customer is to be booked again; what the payer's bank took back is not.
  if (!chargeback)
    await trx.updateTable('bank_entry').set({ state: 'waiting', payment_id: null, done_at: null, done_by: null }).where('payment_id', '=', id).execute();
  const touched = await trx.selectFrom('settlement').select('invoice_id').distinct().where('payment_id', '=', id).execute();
  await recordEvent(context, {
    kind: 'payment.reversed',
    facts: { ...(await whoOf(trx, payment.customer_id)), amount: payment.amount, day: payment.day, ...(chargeback ? { chargeback, fee } : {}) },
    why: reason,
    subjects: [{ kind: 'customer', key: payment.customer_id }, ...touched.map((row) => ({ kind: 'invoice' as const, key: row.invoice_id }))],
  });
  return readMoney(trx, now, payment.customer_id);
}

async function lockPayment(trx: Trx, id: number) {
  const find = () => trx.selectFrom('payment').selectAll().where('id', '=', id).executeTakeFirst();
  const known = await find();
  if (!known) throw notFound(`payment ${id}`);
  await lockPayer(trx, known.customer_id);
  return (await find())!;
}

function checkSettled(amount: Amount, open: readonly OpenRow[], settled: readonly Settled[], day: IsoDay): void {
  const faults = settlementFaults(amount, open, settled, discountFor(day)).map(({ field, message }) => ({ field: `body.${field}`, message }));
  if (faults.length > 0) throw new Refusal('invalid', faults.map(({ field, message }) => `${field}: ${message}`).join('; '), faults);
}

/** Writes what goes to which invoice: one statement, however many there are. */
async function settle(
  { trx, now, user }: CommandContext,
  settled: readonly Settled[],
  from: { readonly payment?: number; readonly note?: number },
): Promise<void> {
  const common = { payment_id: from.payment ?? null, credit_note_id: from.note ?? null, made_at: now.instant, made_by: user.id, reason: '' };
  const kind = from.note === undefined ? ('payment' as const) : ('credit' as const);
  const rows = settled.flatMap(({ invoice, amount, discount }) => [
    ...(compareDecimal(amount, '0') > 0 ? [{ ...common, invoice_id: invoice, kind, amount }] : []),
    ...(compareDecimal(discount, '0') > 0 ? [{ ...common, invoice_id: invoice, kind: 'discount' as const, amount: discount }] : []),
  ]);
  await insertRows(trx, 'settlement', rows);
}

async function whoOf(trx: Trx, customer: CustomerId): Promise<{ customer: string; currency: string }> {
  const { rows } = await sql<{
    customer: string;
    currency: string;
  }>`select name as customer, firm_currency() as currency from customer where id = ${customer}`.execute(trx);
  return rows[0]!;
}

const numbersOf = (open: readonly OpenRow[], settled: readonly Settled[]) => settled.map((row) => open.find(({ id }) => id === row.invoice)!.number);

const subjectsOf = (customer: CustomerId, settled: readonly Settled[]) => [
  { kind: 'customer' as const, key: customer },
  ...settled.map((row) => ({ kind: 'invoice' as const, key: row.invoice })),
];
