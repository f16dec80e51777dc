import type { ItemCode, LineId } from '@nockwright/core/ids';
import type { Cause, Dealing } from '@nockwright/contract/history';
import type { Touched } from '../locks';
import { type PoolKey } from '@nockwright/core/book';
import { compareDecimal, least, minus, sum } from '@nockwright/core/money';
import type { BoundToLine } from '@nockwright/core/orders';
import { sql } from 'kysely';
import type { Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';

import { cancelAssembly } from './assemblies';
import { closeOpenQuantity, shrinkRoute } from './close-open-quantity';
import { liftDraft } from './gather-purchases';
import { tellTakenBack } from './exchange/tell-supplier';
import { readPurchase, touchPurchase } from './load-purchase';
import { poolsBehind } from './pools-behind';
import { cancelTransferLine } from './transfers';

/** Goods on their way that are bound to an order line: what was bought, brought over or assembled for it. */
export interface BoundSupply extends BoundToLine {
  /** Of the line; of the order where it has no lines. */
  readonly id: number;
  readonly document: number;
  readonly number: string;
  readonly state: string;
  readonly order_line_id: LineId;
  readonly item: ItemCode;
  /** `purchase P7612 line 2 from Stelling Stainless`. */
  readonly label: string;
  readonly expected_day: string;
  /** Where its components or goods are kept meanwhile: pools that change with it. */
  readonly place: string | null;
}

const ROUTE_COLUMNS = { purchase: 'purchase_line_id', drop_ship: 'purchase_line_id', transfer: 'transfer_line_id', assembly: 'assembly_id' } as const;

/** What is open and bound to these order lines, what is due first first. */
export async function loadBoundSupply(db: Db, lineIds: readonly number[]): Promise<BoundSupply[]> {
  const { rows } = await sql<BoundSupply>`
    select case when p.warehouse is null then 'drop_ship' else 'purchase' end as kind, p.id, p.purchase_id as document, o.number, o.number || '/' || p.line_no as name, o.state, p.order_line_id, p.item,
      'purchase ' || o.number || ' line ' || p.line_no || ' from ' || s.name as label, p.expected_day::text, trim_scale(p.quantity - p.received - p.closed)::text as open, p.warehouse as place
    from purchase_line p join purchase_order o on o.id = p.purchase_id join supplier s on s.code = o.supplier
    where p.order_line_id = any(${lineIds}) and p.received + p.closed < p.quantity
    union all
    select 'transfer', t.id, t.transfer_id, o.number, o.number || '/' || t.line_no, o.state, t.order_line_id, t.item,
      'transfer ' || o.number || ' from ' || w.name, o.expected_day::text, trim_scale(t.quantity - t.cancelled - t.received - t.lost)::text, o.from_warehouse
    from transfer_line t join transfer_order o on o.id = t.transfer_id join warehouse w on w.code = o.from_warehouse
    where t.order_line_id = any(${lineIds}) and t.cancelled + t.received + t.lost < t.quantity
    union all
    select 'assembly', a.id, a.id, a.number, a.number, a.state, a.order_line_id, a.item, 'assembly ' || a.number, a.expected_day::text,
      trim_scale(a.quantity - a.built - a.cancelled)::text, a.warehouse
    from assembly_order a
    where a.order_line_id = any(${lineIds}) and a.built + a.cancelled < a.quantity
    order by 10, 1, 2`.execute(db);
  return rows;
}

/** What a supply's state means for whoever wants to be rid of it. */
export function standingOf({ kind, state }: BoundSupply): string {
  if (kind === 'transfer') return state === 'shipped' ? 'inbound: it is received for anyone' : 'not shipped: the goods stay there';
  if (kind === 'assembly') return 'components return to stock';
  return state === 'draft' ? 'not sent yet' : `${state}: the supplier must be told`;
}

/** The documents that bound supply belongs to: to be locked before it is changed. */
export function touchedBy(bound: readonly BoundSupply[]): Pick<Touched, 'purchases' | 'transfers' | 'assemblies'> {
  const of = (...kinds: readonly BoundSupply['kind'][]) => bound.filter((row) => kinds.includes(row.kind)).map((row) => row.document);
  return { purchases: of('purchase', 'drop_ship'), transfers: of('transfer'), assemblies: of('assembly') };
}

/** The pools that change when bound supply is given up, beside that of its line. To be locked with the line's. */
export function poolsOfBound(db: Db, bound: readonly BoundSupply[]): Promise<PoolKey[]> {
  const ids = (kind: BoundSupply['kind']) => bound.filter((row) => row.kind === kind).map((row) => row.id);
  return poolsBehind(db, { transferLines: ids('transfer'), assemblies: ids('assembly') });
}

/**
 * Gives up `quantity` of what is bound to an order line: struck off a draft, closed at the supplier or kept for others
 * (`keep`), left where it is, taken apart. Nothing of it stays bound. Tells what was done.
 */
export async function giveUp(context: CommandContext, row: BoundSupply, quantity: string, supplier: 'cancel' | 'keep', cause: Cause): Promise<Dealing[]> {
  // What is closed at the supplier shrinks its route itself.
  const closes = (supplier === 'cancel' || row.kind === 'drop_ship') && row.state !== 'draft' && (row.kind === 'purchase' || row.kind === 'drop_ship');
  if (!closes) await shrinkRoute(context.trx, ROUTE_COLUMNS[row.kind], row.id, quantity);
  if (row.kind === 'transfer') return [await cancelTransferLine(context, row.id, quantity, { cause })];
  if (row.kind === 'assembly') return giveUpAssembly(context, row, quantity, cause);
  if (row.state === 'draft') return [await strikeOff(context, row, quantity, cause)];
  // A drop shipment can go to nobody else.
  if (supplier === 'cancel' || row.kind === 'drop_ship') {
    const done = await closeOpenQuantity(context, row.id, quantity, { cause });
    const purchase = await readPurchase(context.trx, context.now, row.document);
    const { lineNo, item } = purchase.lines.find((line) => line.id === row.id)!;
    const nothingLeft = purchase.lines.every((line) => line.open === '0');
    const how = await tellTakenBack(context, purchase, [{ lineNo, item, quantity }], nothingLeft, reasonForSupplier(cause));
    return how.mailed || how.filed ? [...done, { did: 'told', ...how }] : done;
  }
  await unbind(context, row, quantity, cause);
  return [{ did: 'kept', quantity, purchase: row.number }];
}

/** What a supplier is told of why they shall not send something: no more of our customer's affairs than they need. */
function reasonForSupplier({ kind }: Cause): string {
  if (kind === 'order.cancelled') return 'our customer has cancelled';
  return kind === 'promise.endangered' ? 'it would leave too late' : 'it is not needed any more';
}

async function giveUpAssembly(context: CommandContext, row: BoundSupply, quantity: string, cause: Cause): Promise<Dealing[]> {
  const done = await cancelAssembly(context, row.id, quantity, { cause });
  const { open, keeps } = await context.trx
    .selectFrom('assembly_order')
    .select([sql<string>`quantity - built - cancelled`.as('open'), 'order_line_id as keeps'])
    .where('id', '=', row.id)
    .executeTakeFirstOrThrow();
  // A fraction that nobody needs goes on with the rest; nothing of it is bound where all was given up.
  if (keeps !== null && compareDecimal(quantity, row.open) >= 0 && compareDecimal(open, '0') > 0)
    await context.trx.updateTable('assembly_order').set({ order_line_id: null }).where('id', '=', row.id).execute();
  return [done];
}

/** How much was bought for stock beside what is bound, to have the whole for less; null where nothing was, or a buyer has made it theirs. */
export async function boughtBeside(db: Db, { kind, id }: BoundSupply): Promise<string | null> {
  if (kind !== 'purchase') return null;
  const rows = await db.selectFrom('purchase_line').select('quantity').where('beside_id', '=', id).execute();
  return rows.length === 0 ? null : sum(rows.map((row) => row.quantity));
}

/** Takes goods off a draft purchase order, which nobody has seen yet. */
async function strikeOff(context: CommandContext, row: BoundSupply, quantity: string, cause: Cause): Promise<Dealing> {
  const { trx } = context;
  const line = await trx.selectFrom('purchase_line').selectAll().where('id', '=', row.id).executeTakeFirstOrThrow();
  const rest = minus(line.quantity, quantity);
  let beside: string | null = null;
  if (compareDecimal(rest, '0') > 0) await trx.updateTable('purchase_line').set({ quantity: rest }).where('id', '=', row.id).execute();
  else {
    beside = await boughtBeside(trx, row);
    await trx
      .deleteFrom('purchase_line')
      .where((eb) => eb.or([eb('id', '=', row.id), eb('beside_id', '=', row.id)]))
      .execute();
  }
  await liftDraft(context, row.document);
  const left = await trx.selectFrom('purchase_line').select('id').where('purchase_id', '=', row.document).limit(1).executeTakeFirst();
  if (left) await touchPurchase(trx, row.document);
  else
    await trx
      .updateTable('purchase_order')
      .set({ state: 'cancelled', version: sql`version + 1` })
      .where('id', '=', row.document)
      .execute();
  await recordEvent(context, {
    kind: 'purchase.struck',
    facts: { number: row.number, item: line.item, quantity, beside, ended: !left },
    cause,
    subjects: [
      { kind: 'purchase', key: row.document },
      { kind: 'item', key: line.item },
    ],
  });
  return { did: 'struck', quantity, purchase: row.number, beside };
}

/** Goods that were bought for a line are anyone's from now on: a part of them on a line of its own. */
async function unbind(context: CommandContext, row: BoundSupply, quantity: string, cause: Cause): Promise<void> {
  const { trx } = context;
  const line = await trx.selectFrom('purchase_line').selectAll().where('id', '=', row.id).executeTakeFirstOrThrow();
  const freed = least(quantity, row.open);
  if (compareDecimal(freed, row.open) === 0 && compareDecimal(line.received, '0') === 0) {
    await trx.updateTable('purchase_line').set({ order_line_id: null }).where('id', '=', row.id).execute();
  } else {
    await trx
      .updateTable('purchase_line')
      .set({ quantity: minus(line.quantity, freed) })
      .where('id', '=', row.id)
      .execute();
    const { last } = await trx
      .selectFrom('purchase_line')
      .select(({ fn }) => fn.max<number>('line_no').as('last'))
      .where('purchase_id', '=', row.document)
      .executeTakeFirstOrThrow();
    await trx
      .insertInto('purchase_line')
      .values({
        purchase_id: row.document,
        line_no: last + 1,
        item: line.item,
        warehouse: line.warehouse,
        quantity: freed,
        cost: line.cost,
        expected_day: line.expected_day,
        first_day: line.first_day,
        order_line_id: null,
        firm: line.firm,
      })
      .execute();
  }
  await touchPurchase(trx, row.document);
  await recordEvent(context, {
    kind: 'purchase.freed',
    facts: { number: row.number, item: line.item, quantity: freed },
    cause,
    subjects: [
      { kind: 'purchase', key: row.document },
      { kind: 'item', key: line.item },
    ],
  });
}
