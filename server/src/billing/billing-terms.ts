import { termsInWords } from '@nockwright/core/billing';
import type { MoneyView, paymentRoutes } from '@nockwright/contract/billing';
import type { BodyOf } from '@nockwright/contract/shape';
import type { CustomerId } from '@nockwright/core/ids';
import { compareDecimal } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { Db } from '../database';
import { checkTerms } from '../customers';
import { changedSince, recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound } from '../http/refusal';
import { lockPayer } from './lock-payer';
import { readMoney } from './read-money';

/** How a customer is billed: when, at which terms, with which tax. */
export async function setBilling(context: CommandContext, id: CustomerId, body: BodyOf<typeof paymentRoutes.setBilling>): Promise<MoneyView> {
  const { trx, now } = context;
  await lockPayer(trx, id);
  const customer = await trx.selectFrom('customer').select(['name', 'version', 'terms_kind', 'terms_days']).where('id', '=', id).executeTakeFirst();
  if (!customer) throw notFound(`customer ${id}`);
  if (customer.version !== body.version)
    throw await changedSince(trx, { kind: 'customer', key: id, label: customer.name, given: body.version, current: customer.version });
  if (body.billingRule === 'value' && (body.billingValue === null || compareDecimal(body.billingValue, '0') <= 0))
    throw invalid('body.billingValue', 'expected an amount above 0, got nothing');
  if (compareDecimal(body.discountPercent, '100') >= 0) throw invalid('body.discountPercent', 'expected less than 100');
  // To be paid later than was agreed is a credit, whichever screen gives it: the end of a month is up to 31 days more.
  const days = (kind: 'net' | 'month_end', count: number) => count + (kind === 'month_end' ? 31 : 0);
  checkTerms(context, days(customer.terms_kind, customer.terms_days), days(body.termsKind, body.termsDays));
  await trx
    .updateTable('customer')
    .set({
      billing_rule: body.billingRule,
      billing_value: body.billingRule === 'value' ? body.billingValue : null,
      terms_kind: body.termsKind,
      terms_days: body.termsDays,
      discount_percent: body.discountPercent,
      discount_days: body.discountDays,
      tax_number: body.taxNumber,
      tax_exemption: body.taxExemption,
      version: sql`version + 1`,
    })
    .where('id', '=', id)
    .execute();
  const terms = termsInWords({ kind: body.termsKind, days: body.termsDays, discountPercent: body.discountPercent, discountDays: body.discountDays });
  await recordEvent(context, {
    kind: 'billing.set',
    facts: { customer: customer.name, terms, exempt: body.taxExemption !== '', rule: body.billingRule },
    after: body,
    subjects: [{ kind: 'customer', key: id }],
  });
  return readMoney(trx, now, id);
}

export async function listTaxClasses(db: Db) {
  const rows = await db.selectFrom('tax_class').selectAll().orderBy('percent', 'desc').orderBy('code').execute();
  return rows.map((row) => ({ ...row, percent: String(Number(row.percent)) }));
}

/** Another rate or name for a class of items. Invoices that are issued stay as they are. */
export async function setTaxClass(context: CommandContext, { code, name, percent }: BodyOf<typeof paymentRoutes.setTaxClass>) {
  const { trx } = context;
  const known = await trx.selectFrom('tax_class').selectAll().where('code', '=', code).forUpdate().executeTakeFirst();
  if (!known) throw notFound(`tax class ${code}`);
  if (compareDecimal(percent, '100') >= 0) throw invalid('body.percent', 'expected less than 100');
  await trx.updateTable('tax_class').set({ name, percent }).where('code', '=', code).execute();
  await recordEvent(context, {
    kind: 'tax_class.set',
    facts: { name, percent, was: String(Number(known.percent)) },
    subjects: [{ kind: 'firm', key: 'firm' }],
  });
  return listTaxClasses(trx);
}
