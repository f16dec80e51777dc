import type { StandInView, supplyRoutes } from '@nockwright/contract/supply';
import type { BodyOf } from '@nockwright/contract/shape';
import type { Db } from '../../database';
import { recordEvent } from '../../events';
import type { CommandContext } from '../../http/context';
import { invalid } from '../../http/refusal';
import type { StandInSettings } from './stand-in';

const STAND_IN = 'supplier_stand_in';
/** Until somebody sets it: long enough to see an order go, short enough to wait for the answer. */
const USUAL: StandInSettings = { seconds: 30, habits: {} };

/** How the stand-in answers; `usual` stands where nobody has set it. */
export async function loadStandIn(db: Db, usual = USUAL): Promise<StandInSettings> {
  const row = await db.selectFrom('desk_setting').select('value').where('name', '=', STAND_IN).executeTakeFirst();
  return (row?.value as StandInSettings | undefined) ?? usual;
}

/** The same, with every supplier and whether they take files. */
export async function readStandIn(db: Db): Promise<StandInView> {
  const { seconds, habits } = await loadStandIn(db);
  const suppliers = await db.selectFrom('supplier').select(['code', 'name', 'exchanges']).orderBy('name').execute();
  return { seconds, suppliers: suppliers.map((row) => ({ ...row, habit: habits[row.code] ?? 'as_asked' })) };
}

/** Sets how the stand-in answers what it gets from now on, and who takes files. */
export async function setStandIn(context: CommandContext, wish: BodyOf<typeof supplyRoutes.setStandIn>): Promise<StandInView> {
  const { trx } = context;
  const before = await readStandIn(trx);
  for (const [at, { code, exchanges }] of wish.suppliers.entries()) {
    const { numUpdatedRows } = await trx.updateTable('supplier').set({ exchanges }).where('code', '=', code).executeTakeFirstOrThrow();
    if (numUpdatedRows === 0n) throw invalid(`body.suppliers[${at}].code`, `there is no supplier ${code}`);
  }
  const { habits } = await loadStandIn(trx);
  const value: StandInSettings = {
    seconds: wish.seconds,
    habits: { ...habits, ...Object.fromEntries(wish.suppliers.map(({ code, habit }) => [code, habit])) },
  };
  await trx
    .insertInto('desk_setting')
    .values({ name: STAND_IN, value: JSON.stringify(value) })
    .onConflict((conflict) => conflict.column('name').doUpdateSet({ value: JSON.stringify(value) }))
    .execute();
  const after = await readStandIn(trx);
  await recordEvent(context, {
    kind: 'stand_in.set',
    facts: {},
    before: { ...before },
    after: { ...after },
    subjects: [{ kind: 'supplier', key: 'all' }, ...wish.suppliers.map(({ code }) => ({ kind: 'supplier' as const, key: code }))],
  });
  return after;
}
