import type { MoneyView, paymentRoutes } from '@nockwright/contract/billing';
import type { BodyOf } from '@nockwright/contract/shape';
import type { CustomerId } from '@nockwright/core/ids';
import { compareDecimal, least, minus, sum, type Amount } from '@nockwright/core/money';
import { insertRows, type Trx } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound } from '../http/refusal';
import { lockPayer } from './lock-payer';
import { readMoney } from './read-money';

/** Gives money back: of a credit note that is not used up, or of what is on account, the newest payment first. */
export async function refundCustomer(
  context: CommandContext,
  customer: CustomerId,
  { amount, method, credit, reason }: BodyOf<typeof paymentRoutes.refundCustomer>,
): Promise<MoneyView> {
  const { trx, now, user } = context;
  const known = await trx.selectFrom('customer').select('name').where('id', '=', customer).executeTakeFirst();
  if (!known) throw notFound(`customer ${customer}`);
  await lockPayer(trx, customer);
  if (compareDecimal(amount, '0') <= 0) throw invalid('body.amount', `expected an amount above 0, got ${amount}`);
  const sources = credit === undefined ? await onAccount(trx, customer) : await creditLeft(trx, customer, credit);
  const most = sum(sources.map((row) => row.left));
  if (compareDecimal(amount, most) > 0) throw invalid('body.amount', `${amount} is more than the ${most} that can be given back`);
  let left = amount;
  const rows = sources.flatMap(({ left: has, payment_id, credit_note_id }) => {
    const part = least(left, has);
    left = minus(left, part);
    return compareDecimal(part, '0') > 0
      ? [{ customer_id: customer, payment_id, credit_note_id, day: now.today, method, amount: part, reason, made_at: now.instant, made_by: user.id }]
      : [];
  });
  await insertRows(trx, 'refund', rows);
  const { currency } = await trx.selectFrom('firm').select('currency').executeTakeFirstOrThrow();
  await recordEvent(context, {
    kind: 'payment.refunded',
    facts: { customer: known.name, amount, currency, of: sources[0]!.name },
    why: reason,
    subjects: [{ kind: 'customer', key: customer }, ...(credit === undefined ? [] : [{ kind: 'invoice' as const, key: credit }])],
  });
  return readMoney(trx, now, customer);
}

interface Source {
  readonly name: string;
  readonly left: Amount;
  readonly payment_id: number | null;
  readonly credit_note_id: number | null;
}

async function onAccount(trx: Trx, customer: CustomerId): Promise<readonly Source[]> {
  const rows = await trx
    .selectFrom('payment')
    .select(['id', 'amount', 'applied'])
    .where('customer_id', '=', customer)
    .where('reversed_at', 'is', null)
    .whereRef('applied', '<', 'amount')
    .orderBy('id', 'desc')
    .execute();
  if (rows.length === 0) throw invalid('body.amount', 'nothing of this customer is on account');
  return rows.map((row) => ({ name: 'what was on account', left: minus(row.amount, row.applied), payment_id: row.id, credit_note_id: null }));
}

async function creditLeft(trx: Trx, customer: CustomerId, id: number): Promise<readonly Source[]> {
  const row = await trx
    .selectFrom('invoice')
    .select(['number', 'amount', 'paid'])
    .where('id', '=', id)
    .where('customer_id', '=', customer)
    .where('kind', '=', 'credit_note')
    .executeTakeFirst();
  if (!row) throw invalid('body.credit', `this customer has no credit note ${id}`);
  return [{ name: `credit note ${row.number}`, left: minus(row.amount, row.paid), payment_id: null, credit_note_id: id }];
}
