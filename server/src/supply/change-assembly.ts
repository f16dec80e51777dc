import type { AssemblyId } from '@nockwright/core/ids';
import type { Cause } from '@nockwright/contract/history';
import type { Decision } from '@nockwright/contract/promise';
import type { AssemblyView, SupplyRipple } from '@nockwright/contract/supply';
import { calendarOf, dayNumber, isoDay, type WorkCalendar } from '@nockwright/core/calendar';
import { compareDecimal, minus } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { Now } from '../clock';
import type { Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { loadWarehouses, lockMoving } from '../promise';
import { cancelAssembly, checkUnderWay, lockAssembly } from './assemblies';
import { givenBack, loadAssemblyTree, unbuilt, type AssemblyNode } from './assembly-tree';
import { loseSupply, shrinkRoute, type Because } from './close-open-quantity';
import { settleInside, viewInside, type InsideChange } from './inside-ripple';
import { readAssembly } from './read-inside';
import { changedTo, dayAvailable } from './supply-plan';

/** Another day that an assembly is done by, or fewer of it. */
export interface AssemblyWish {
  readonly expectedDay?: string;
  /** How many are still to assemble. */
  readonly open?: string;
}

type Tree = ReadonlyMap<number, AssemblyNode>;

/** Whose promises another day of an assembly, or fewer of it, would move, and who could have the components. */
export async function previewAssemblyChange(db: Db, now: Now, assemblyId: AssemblyId, wish: AssemblyWish, accept: readonly number[]): Promise<SupplyRipple> {
  const tree = await loadAssemblyTree(db, assemblyId);
  const assembly = tree.get(assemblyId);
  if (!assembly) throw notFound(`assembly order ${assemblyId}`);
  checkUnderWay(assembly);
  checkWish(tree, assembly, wish, now, 'query');
  const days = daysBy(tree, assembly, wish.expectedDay, await calendarAt(db, assembly.warehouse));
  const whole = wholeOf(tree);
  const ripple = await viewInside(db, now, [planOf(tree, assembly, wish, days)], accept);
  const comes = wish.open === undefined || compareDecimal(wish.open, '0') > 0;
  return { availableDay: comes ? await dayAvailable(db, now, whole.warehouse, days.get(whole.id) ?? whole.expected_day) : null, ripple };
}

/**
 * Records another day for an assembly, or fewer of it: what is no longer needed goes back to the shelf. A part that is done
 * later carries along what it goes into. With a decision the promises it reaches move as was seen; without one what is late
 * stands as told, at risk, and what loses its goods waits.
 */
export async function changeAssembly(
  context: CommandContext,
  assemblyId: AssemblyId,
  { version, note = '', decision, ...wish }: AssemblyWish & { readonly version: number; readonly note?: string; readonly decision?: Decision },
): Promise<AssemblyView> {
  const { trx, now } = context;
  const { tree, assembly, orders } = await lockTree(context, assemblyId, version, decision);
  checkWish(tree, assembly, wish, now, 'body');
  const days = daysBy(tree, assembly, wish.expectedDay, await calendarAt(trx, assembly.warehouse));
  const fewer = wish.open !== undefined && compareDecimal(wish.open, unbuilt(assembly)) < 0 ? wish.open : undefined;
  if (days.size === 0 && fewer === undefined) throw invalid('body', 'expected another day (expectedDay) or quantity (open)');
  const dayOf = (row: AssemblyNode) => (days.has(row.id) ? { day: days.get(row.id)!, was: row.expected_day } : null);
  const change = { day: dayOf(assembly), fewer: fewer === undefined ? null : { open: fewer, was: unbuilt(assembly) } };
  const cause: Cause = { kind: 'assembly.changed', facts: { number: assembly.number, ...change, as: null }, note };
  await settleInside(context, [planOf(tree, assembly, wish, days)], decision, cause, async () => {
    for (const [id, day] of days)
      await trx
        .updateTable('assembly_order')
        .set({ expected_day: day, version: sql`version + 1` })
        .where('id', '=', id)
        .execute();
    if (fewer !== undefined) await giveBack(context, assembly, fewer, note ? { why: note } : { cause }, cause);
  });
  for (const id of days.keys()) {
    const row = tree.get(id)!;
    await recordEvent(context, {
      kind: 'assembly.changed',
      facts:
        id === assemblyId
          ? { number: row.number, ...change, as: null }
          : { number: row.number, day: dayOf(row), fewer: null, as: { number: assembly.number, day: days.get(assemblyId)! } },
      why: note,
      subjects: [{ kind: 'assembly', key: id }, { kind: 'item', key: row.item }, ...orders],
    });
  }
  return readAssembly(trx, assemblyId);
}

/** Gives an assembly up; promises made on it move as decided, or wait again. */
export async function giveUpAssembly(
  context: CommandContext,
  assemblyId: AssemblyId,
  { version, reason, decision }: { readonly version: number; readonly reason: string; readonly decision?: Decision },
): Promise<AssemblyView> {
  const { tree, assembly } = await lockTree(context, assemblyId, version, decision);
  checkWhole(assembly);
  const cause: Cause = { kind: 'assembly.cut', facts: { number: assembly.number, quantity: unbuilt(assembly), item: assembly.item }, note: reason };
  const changes = [planOf(tree, assembly, { open: '0' }, new Map())];
  await settleInside(context, changes, decision, cause, () => giveBack(context, assembly, '0', { why: reason }, cause));
  return readAssembly(context.trx, assemblyId);
}

/** Locks an assembly with all that it goes into and that goes into it, after the order it is put together for. */
async function lockTree(context: CommandContext, assemblyId: AssemblyId, version: number, decision: Decision | undefined) {
  const { trx } = context;
  const whole = [...(await loadAssemblyTree(trx, assemblyId)).values()][0];
  const bound = await trx
    .selectFrom('order_line')
    .select('order_id')
    .where('id', '=', whole?.order_line_id ?? 0)
    .execute();
  await lockMoving(
    trx,
    decision,
    bound.map((row) => row.order_id),
  );
  const tree = await loadAssemblyTree(trx, assemblyId, 'lock');
  await lockAssembly(trx, assemblyId, version);
  return { tree, assembly: tree.get(assemblyId)!, orders: bound.map((row) => ({ kind: 'order' as const, key: row.order_id })) };
}

/** What is not put together goes back to the shelf, and whoever was promised it loses it. */
async function giveBack(context: CommandContext, assembly: AssemblyNode, open: string, because: Because, cause: Cause): Promise<void> {
  const less = minus(unbuilt(assembly), open);
  await loseSupply(context, assembly, assembly.number, open, cause);
  await shrinkRoute(context.trx, 'assembly_id', assembly.id, less);
  await cancelAssembly(context, assembly.id, less, because);
}

function checkWhole(assembly: AssemblyNode): void {
  if (assembly.parent_id !== null) throw new Refusal('conflict', `Assembly ${assembly.number} is part of another: cancel that one, or make fewer of it.`);
}

function checkWish(tree: Tree, assembly: AssemblyNode, { expectedDay: day, open }: AssemblyWish, { today }: Now, place: 'body' | 'query'): void {
  const dayField = place === 'body' ? 'body.expectedDay' : 'query.day';
  if (day !== undefined && day < today) throw invalid(dayField, `${day} has passed; expected ${today} or later`);
  const part = [...tree.values()].find((row) => row.parent_id === assembly.id && row.state === 'open' && day !== undefined && row.expected_day > day);
  if (part) throw invalid(dayField, `${day} is before ${part.number}, a part of it, is assembled: ${part.expected_day}`);
  if (open === undefined) return;
  checkWhole(assembly);
  if (!Number.isInteger(Number(open))) throw invalid(`${place}.open`, `${open} is no whole number: only whole ones are assembled`);
  if (compareDecimal(open, unbuilt(assembly)) > 0)
    throw invalid(`${place}.open`, `${open} is more than the ${unbuilt(assembly)} still to assemble: for more, start another assembly`);
}

/** The days that change when an assembly is done on another day: its own, and of what it goes into where that has to wait for it. */
function daysBy(tree: Tree, assembly: AssemblyNode, day: string | undefined, calendar: WorkCalendar): ReadonlyMap<number, string> {
  const days = new Map<number, string>();
  if (day === undefined || day === assembly.expected_day) return days;
  days.set(assembly.id, day);
  let [row, done] = [assembly, day];
  while (row.parent_id !== null) {
    row = tree.get(row.parent_id)!;
    const ready = isoDay(calendar.offset(calendar.ceil(dayNumber(done)), row.days));
    if (ready <= row.expected_day) break;
    days.set(row.id, ready);
    done = ready;
  }
  return days;
}

/** What others see of it: the whole that the assembly goes into, or is. */
function planOf(tree: Tree, assembly: AssemblyNode, { open }: AssemblyWish, days: ReadonlyMap<number, string>): InsideChange {
  const whole = wholeOf(tree);
  const given = open === undefined ? [] : givenBack(tree, assembly.id, minus(unbuilt(assembly), open));
  return {
    supply: whole.number,
    item: whole.item,
    warehouse: whole.warehouse,
    becomes: changedTo(days.get(whole.id), open),
    freed: given.flatMap(({ assembly: { warehouse }, back }) => back.map((row) => ({ ...row, warehouse }))),
  };
}

function wholeOf(tree: Tree): AssemblyNode {
  return [...tree.values()].find((row) => row.parent_id === null)!;
}

async function calendarAt(db: Db, code: string): Promise<WorkCalendar> {
  const { book } = (await loadWarehouses(db)).find((row) => row.code === code)!;
  return calendarOf(book);
}
