import type { BodyOf } from '@nockwright/contract/shape';
import type { RoutePolicyView, shortageRoutes } from '@nockwright/contract/shortages';
import type { DeskPolicy } from '@nockwright/core/routing';
import { POLICIES, POLICY_NAMES, type RoutePolicy } from '@nockwright/core/shortages';
import type { Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound } from '../http/refusal';

/** The setting's name. */
export const ROUTE_POLICY = 'route_policy';

/** The policy that is set, or what stands where nobody has set one. */
export function asDeskPolicy(value: unknown): DeskPolicy {
  return (value as DeskPolicy | undefined) ?? { name: 'on_time', weights: POLICIES };
}

export async function readPolicy(db: Db): Promise<RoutePolicyView> {
  const row = await db.selectFrom('desk_setting').select('value').where('name', '=', ROUTE_POLICY).executeTakeFirst();
  const { name, weights } = asDeskPolicy(row?.value);
  const view = (policy: RoutePolicy) => ({
    latePercent: String(policy.latePercent),
    shipmentCost: String(policy.shipmentCost),
    surplusPercent: String(policy.surplusPercent),
    cutPercent: String(policy.cutPercent),
  });
  return { name, weights: { on_time: view(weights.on_time), cheapest: view(weights.cheapest), fewest_shipments: view(weights.fewest_shipments) } };
}

/** Sets how ways are ranked from now on. */
export async function setPolicy(context: CommandContext, wish: RoutePolicyView): Promise<RoutePolicyView> {
  const { trx } = context;
  const before = await readPolicy(trx);
  const weights = Object.fromEntries(
    POLICY_NAMES.map((name) => {
      const given = wish.weights[name];
      const policy: RoutePolicy = {
        latePercent: Number(given.latePercent),
        shipmentCost: Number(given.shipmentCost),
        surplusPercent: Number(given.surplusPercent),
        cutPercent: Number(given.cutPercent),
      };
      return [name, policy];
    }),
  );
  const value = JSON.stringify({ name: wish.name, weights });
  await trx
    .insertInto('desk_setting')
    .values({ name: ROUTE_POLICY, value })
    .onConflict((conflict) => conflict.column('name').doUpdateSet({ value }))
    .execute();
  const after = await readPolicy(trx);
  await recordEvent(context, { kind: 'routes.ranked', facts: { policy: wish.name }, before, after, subjects: [{ kind: 'customer', key: 'all' }] });
  return after;
}

/** Sets how ways are ranked for one customer, and whether they are asked before a later day is settled. */
export async function setCustomerPolicy(
  context: CommandContext,
  customer: number,
  { policy, asksWhenLate }: BodyOf<typeof shortageRoutes.setCustomerPolicy>,
): Promise<BodyOf<typeof shortageRoutes.setCustomerPolicy>> {
  const { trx } = context;
  const known = await trx
    .selectFrom('customer')
    .select(['name', 'route_policy', 'asks_when_late'])
    .where('id', '=', customer)
    .forNoKeyUpdate()
    .executeTakeFirst();
  if (!known) throw notFound(`customer ${customer}`);
  await trx.updateTable('customer').set({ route_policy: policy, asks_when_late: asksWhenLate }).where('id', '=', customer).execute();
  await recordEvent(context, {
    kind: 'routes.ranked_for',
    facts: { customer: known.name, policy, asksWhenLate },
    before: { policy: known.route_policy, asksWhenLate: known.asks_when_late },
    after: { policy, asksWhenLate },
    subjects: [{ kind: 'customer', key: customer }],
  });
  return { policy, asksWhenLate };
}
