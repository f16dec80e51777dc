import type { ItemPage, itemRoutes } from '@nockwright/contract/items';
import type { BodyOf } from '@nockwright/contract/shape';
import { unitName } from '@nockwright/core/units';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound } from '../http/refusal';
import { readItem } from './read-item';

/** Says in what steps a unit of an item is sold from now on: 1 is whole. What was ordered before stays as it is. */
export async function setStep(context: CommandContext, code: string, { unit, step }: BodyOf<typeof itemRoutes.setStep>): Promise<ItemPage> {
  const { trx, now } = context;
  if (Number(step) === 0) throw invalid('body.step', 'expected a step above 0, got 0');
  const item = await trx.selectFrom('item').select(['unit', 'step']).where('code', '=', code).forNoKeyUpdate().executeTakeFirst();
  if (!item) throw notFound(`item ${code}`);
  const other = await trx.selectFrom('item_unit').select('step').where('item', '=', code).where('unit', '=', unit).executeTakeFirst();
  if (unit !== item.unit && !other) throw invalid('body.unit', `${code} is not sold by ${unitName(unit)}`);
  if (unit === item.unit) await trx.updateTable('item').set({ step }).where('code', '=', code).execute();
  else await trx.updateTable('item_unit').set({ step }).where('item', '=', code).where('unit', '=', unit).execute();
  await recordEvent(context, {
    kind: 'item.step_set',
    facts: { item: code, unit, step },
    before: { unit, step: unit === item.unit ? item.step : other!.step },
    after: { unit, step },
    subjects: [{ kind: 'item', key: code }],
  });
  return readItem(trx, now, code);
}
