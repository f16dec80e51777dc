import type { CommandContext } from '../http/context';
import { recordEvent } from '../events';
import { notFound, Refusal } from '../http/refusal';
import { deskConfidence } from './arrival-odds';

export interface ConfidenceWish {
  /** Null: the desk's, for all customers without one of their own. */
  readonly customer: number | null;
  /** In percent; null: the supplier's day is believed (a customer: as the desk's are). */
  readonly confidence: number | null;
}

/** Sets how sure promises must be from now on, to one customer or to all who have none of their own. Told promises stand. */
export async function setConfidence(context: CommandContext, { customer, confidence }: ConfidenceWish): Promise<ConfidenceWish> {
  const { trx, user } = context;
  if (customer === null) {
    if (user.role !== 'manager') throw new Refusal('not-allowed', 'The desk’s confidence is the manager’s to set; a customer’s own you may.');
    const before = await deskConfidence(trx);
    await trx
      .insertInto('desk_setting')
      .values({ name: 'confidence', value: JSON.stringify(confidence) })
      .onConflict((conflict) => conflict.column('name').doUpdateSet({ value: JSON.stringify(confidence) }))
      .execute();
    await recordEvent(context, {
      kind: 'confidence.set',
      facts: { customer: null, percent: confidence },
      before,
      after: confidence,
      subjects: [{ kind: 'customer', key: 'all' }],
    });
    return { customer, confidence };
  }
  const known = await trx.selectFrom('customer').select(['name', 'confidence']).where('id', '=', customer).forNoKeyUpdate().executeTakeFirst();
  if (!known) throw notFound(`customer ${customer}`);
  await trx.updateTable('customer').set({ confidence }).where('id', '=', customer).execute();
  await recordEvent(context, {
    kind: 'confidence.set',
    facts: { customer: known.name, percent: confidence },
    before: known.confidence,
    after: confidence,
    subjects: [{ kind: 'customer', key: customer }],
  });
  return { customer, confidence };
}
