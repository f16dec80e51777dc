import type { Firm, firmRoutes } from '@nockwright/contract/firm';
import type { BodyOf } from '@nockwright/contract/shape';
import { isCurrency, minorUnit } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { Trx } from '../database';
import { changedSince, recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid } from '../http/refusal';
import { isCurrencySettled, readFirm, type FirmRecord } from './read-firm';

/** The firm's one subject in histories. */
export const FIRM = { kind: 'firm', key: 'firm' } as const;

/** Locks the firm for a change; refused where somebody else has changed it since `version`. */
export async function lockFirm(trx: Trx, version: number): Promise<FirmRecord> {
  const firm = await trx.selectFrom('firm').selectAll().forNoKeyUpdate().executeTakeFirstOrThrow();
  if (firm.version !== version) throw await changedSince(trx, { ...FIRM, label: 'The firm', given: version, current: firm.version });
  return firm;
}

/** Edits the firm. Papers made before keep what they said; mails that wait come from the new address. */
export async function setFirm(context: CommandContext, { version, taxNumber, gs1Prefix, ...wish }: BodyOf<typeof firmRoutes.setFirm>): Promise<Firm> {
  const { trx } = context;
  const before = await lockFirm(trx, version);
  if (!isCurrency(wish.currency)) throw invalid('body.currency', `expected a currency of ISO 4217, such as EUR, got ${wish.currency}`);
  if (minorUnit(wish.currency) !== 2) throw invalid('body.currency', `amounts are kept to two places, and ${wish.currency} has ${minorUnit(wish.currency)}`);
  if (!/^[A-Z0-9-]+$/.test(wish.code)) throw invalid('body.code', `expected capital letters, digits and dashes, got ${wish.code}`);
  if (wish.country !== '' && !/^[A-Z]{2}$/.test(wish.country))
    throw invalid('body.country', `expected two capital letters of ISO 3166, such as GB, got ${wish.country}`);
  if (wish.currency !== before.currency && (await isCurrencySettled(trx)))
    throw invalid('body.currency', `amounts of orders, purchases or invoices are in ${before.currency}: the currency cannot be changed any more`);
  if (gs1Prefix !== '' && !/^\d{7,10}$/.test(gs1Prefix)) throw invalid('body.gs1Prefix', `expected 7 to 10 digits, got ${gs1Prefix}`);
  const after = { ...wish, tax_number: taxNumber, gs1_prefix: gs1Prefix };
  await trx
    .updateTable('firm')
    .set({ ...after, version: sql`version + 1` })
    .execute();
  const { one: _, version: _seen, ...stood } = before;
  const changed = Object.entries(after).filter(([field, value]) => stood[field as keyof typeof stood] !== value);
  if (changed.length > 0)
    await recordEvent(context, {
      kind: 'firm.changed',
      facts: { fields: changed.map(([field]) => field as keyof typeof after) },
      before: Object.fromEntries(changed.map(([field]) => [field, stood[field as keyof typeof stood]])),
      after: Object.fromEntries(changed),
      subjects: [FIRM],
    });
  return readFirm(trx);
}
