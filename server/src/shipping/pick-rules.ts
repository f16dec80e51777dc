import { stoppedBy, tryRules, USUAL_RULES, type PickRules, type PickStop, type RuledOrder } from '@nockwright/core/shipping';
import { dayNumber, isoDay, type IsoDay } from '@nockwright/core/calendar';
import type { PickRulesView, pickRuleRoutes, PickTrial } from '@nockwright/contract/shipping';
import type { BodyOf } from '@nockwright/contract/shape';
import { sql } from 'kysely';
import type { Now } from '../clock';
import { anyOf, type Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, Refusal } from '../http/refusal';

const RULES = 'pick_rules';
/** Rules are tried on orders of so many days. */
const TRIAL_DAYS = 90;

interface Kept extends PickRules {
  readonly version: number;
}

/** The rules in force; those of the beginning until somebody has set them. */
export async function loadRules(db: Db): Promise<Kept> {
  const row = await db.selectFrom('desk_setting').select('value').where('name', '=', RULES).executeTakeFirst();
  return (row?.value as Kept | undefined) ?? { ...USUAL_RULES, version: 0 };
}

export async function readRules(db: Db): Promise<PickRulesView> {
  const rules = await loadRules(db);
  return { ...rules, times: rules.times.join(', ') };
}

/** Sets the rules; refused where somebody else has meanwhile. */
export async function setRules(context: CommandContext, { version, ...wish }: BodyOf<typeof pickRuleRoutes.setPickRules>): Promise<PickRulesView> {
  const { trx } = context;
  const after = { ...wish, times: readTimes(wish.times), version: version + 1 };
  // Whoever sets them waits here for another who does.
  await sql`insert into desk_setting (name, value) values (${RULES}, ${JSON.stringify({ ...USUAL_RULES, version: 0 })}::jsonb) on conflict do nothing`.execute(
    trx,
  );
  const row = await trx.selectFrom('desk_setting').select('value').where('name', '=', RULES).forUpdate().executeTakeFirstOrThrow();
  const before = row.value as Kept;
  if (before.version !== version) throw new Refusal('changed', 'Somebody has set the rules meanwhile. Nothing was changed: look again, then decide.');
  await trx
    .updateTable('desk_setting')
    .set({ value: JSON.stringify(after) })
    .where('name', '=', RULES)
    .execute();
  await recordEvent(context, {
    kind: 'pick_rules.set',
    facts: { on: after.on, times: after.times },
    before: { ...before },
    after,
    subjects: [{ kind: 'firm', key: 'firm' }],
  });
  return readRules(trx);
}

/** `08:00, 11:00` as times of day. */
function readTimes(text: string): string[] {
  const times = text.split(/[\s,;]+/).filter(Boolean);
  const wrong = times.find((time) => !/^([01]\d|2[0-3]):[0-5]\d$/.test(time));
  if (wrong !== undefined || times.length === 0) throw invalid('body.times', `expected times of day such as 08:00, 11:00, got ${wrong ?? 'none'}`);
  return [...new Set(times)].sort();
}

/** How many orders of the last months the rules would have stopped. */
export async function tryOnPast(db: Db, now: Now, wish: BodyOf<typeof pickRuleRoutes.tryPickRules>): Promise<PickTrial> {
  const since = isoDay(dayNumber(now.today) - TRIAL_DAYS);
  return tryRules(await loadPast(db, since), { ...wish, times: readTimes(wish.times) });
}

/** Which rules stop which of these orders; one that none stops is left out. */
export async function loadStops(db: Db, rules: PickRules, orders: readonly number[]): Promise<ReadonlyMap<number, readonly PickStop[]>> {
  if (orders.length === 0) return new Map();
  const rows = await loadRuled(db, sql`${anyOf('o.id', orders)}`, 1);
  return new Map(rows.map((row) => [row.order, stoppedBy(row, rules)] as const).filter(([, stops]) => stops.length > 0));
}

function loadPast(db: Db, since: IsoDay): Promise<readonly RuledOrder[]> {
  return loadRuled(db, sql`o.saved_at >= ${since}::date and exists (select from shipment s where s.order_id = o.id and s.state = 'shipped')`, 0);
}

/** Orders as the rules look at them. `more`: shipments that would come beside those there are. */
async function loadRuled(db: Db, which: ReturnType<typeof sql>, more: number): Promise<readonly (RuledOrder & { readonly order: number })[]> {
  const { rows } = await sql<RuledOrder & { readonly order: number }>`
    select o.id as "order", t.amount::text as value, o.note <> '' as "hasInstructions",
      (select count(*)::int from sales_order b where b.customer_id = o.customer_id and b.kind = 'order' and b.state = 'released' and b.id < o.id) as "ordersBefore",
      exists (select from order_hold h where h.order_id = o.id and h.kind = 'below_floor') as "belowFloor",
      exists (select from shipment s join sales_order b on b.id = s.order_id where s.state = 'shipped' and b.ship_to_id = o.ship_to_id and b.id < o.id) as "knownAddress",
      (select count(*)::int from shipment s where s.order_id = o.id and s.state <> 'cancelled') + ${more}::int as shipments
    from sales_order o join order_standing t on t.order_id = o.id where o.kind = 'order' and o.state = 'released' and ${which} order by o.id`.execute(db);
  return rows;
}
