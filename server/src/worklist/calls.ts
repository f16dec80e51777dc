import type { PromisePart } from '@nockwright/contract/promise';
import type { CallList, CallView } from '@nockwright/contract/worklist';
import { dayByName } from '@nockwright/core/calendar';
import { sayChange, withoutLast } from '@nockwright/core/promise';
import type { Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound, Refusal } from '../http/refusal';

export interface NewCall {
  readonly order: number;
  readonly line: number;
  /** What was promised before. */
  readonly told: readonly PromisePart[];
  readonly holds: readonly PromisePart[];
  /** What of it the customer agreed not to get. */
  readonly givenUp?: string;
  readonly item: string;
  readonly why: string;
}

const MOST_DONE = 200;

/**
 * Notes that a customer must be told. Where a call about the line is still to be made, the customer knows only what that
 * one says they were told: it is superseded; where the promise is back to that, there is nothing to tell.
 */
export async function addCall({ trx, user, now }: CommandContext, call: NewCall): Promise<void> {
  const open = await trx.selectFrom('customer_call').select(['id', 'told']).where('line_id', '=', call.line).where('done_at', 'is', null).executeTakeFirst();
  if (open)
    await trx
      .updateTable('customer_call')
      .set({ done_at: now.instant, done_by: user.id || null, outcome: 'superseded' })
      .where('id', '=', open.id)
      .execute();
  const told = withoutLast(open?.told ?? call.told, call.givenUp ?? '0');
  // A call may be made another day: its sentence names the days.
  const say = sayChange(told, call.holds, call.item, now.today, { name: dayByName });
  if (say === '') return;
  await trx
    .insertInto('customer_call')
    .values({
      order_id: call.order,
      line_id: call.line,
      told: JSON.stringify(told),
      holds: JSON.stringify(call.holds),
      say,
      why: call.why,
      made_at: now.instant,
      made_by: user.id || null,
      done_at: null,
      done_by: null,
      outcome: null,
    })
    .execute();
}

/** Marks that the customer was told, or that it turned out not to be so. */
export async function closeCall(context: CommandContext, callId: number, told: boolean): Promise<CallList> {
  const { trx, user, now } = context;
  const call = await trx
    .selectFrom('customer_call')
    .innerJoin('order_line', 'order_line.id', 'customer_call.line_id')
    .select(['customer_call.id', 'customer_call.order_id', 'customer_call.outcome', 'customer_call.line_id', 'order_line.line_no', 'order_line.item', 'say'])
    .where('customer_call.id', '=', callId)
    .forUpdate('customer_call')
    .executeTakeFirst();
  if (!call) throw notFound(`call ${callId}`);
  if (call.outcome === 'superseded') throw new Refusal('conflict', 'The promise has moved again meanwhile: there is a newer call for this line.');
  if (told === (call.outcome === 'told')) throw new Refusal('conflict', told ? 'This call is made already.' : 'This call is still to be made.');
  if (!told) {
    const newer = await trx.selectFrom('customer_call').select('id').where('line_id', '=', call.line_id).where('done_at', 'is', null).executeTakeFirst();
    if (newer) throw new Refusal('conflict', 'The promise has moved again meanwhile: there is a newer call for this line.');
  }
  await trx
    .updateTable('customer_call')
    .set(told ? { done_at: now.instant, done_by: user.id || null, outcome: 'told' } : { done_at: null, done_by: null, outcome: null })
    .where('id', '=', callId)
    .execute();
  await recordEvent(context, {
    what: told ? `customer told about line ${call.line_no} (${call.item}): ${call.say}` : `call about line ${call.line_no} (${call.item}) is to be made again`,
    subjects: [{ kind: 'order', key: call.order_id }],
  });
  return listCalls(trx, {});
}

/** Calls to be made, oldest first, or those made last. */
export async function listCalls(db: Db, filter: { readonly order?: number; readonly state?: 'open' | 'done' }): Promise<CallList> {
  const done = filter.state === 'done';
  const rows = await db
    .selectFrom('customer_call')
    .innerJoin('order_line', 'order_line.id', 'customer_call.line_id')
    .innerJoin('sales_order', 'sales_order.id', 'customer_call.order_id')
    .innerJoin('customer', 'customer.id', 'sales_order.customer_id')
    .leftJoin('app_user as maker', 'maker.id', 'customer_call.made_by')
    .leftJoin('app_user as caller', 'caller.id', 'customer_call.done_by')
    .selectAll('customer_call')
    .select([
      'order_line.line_no',
      'order_line.item',
      'sales_order.number',
      'customer.name',
      'customer.contact',
      'customer.phone',
      'maker.name as maker',
      'caller.name as caller',
    ])
    .where(done ? 'customer_call.outcome' : 'customer_call.done_at', done ? '=' : 'is', done ? 'told' : null)
    .$if(filter.order !== undefined, (query) => query.where('customer_call.order_id', '=', filter.order!))
    .orderBy(done ? 'customer_call.done_at' : 'customer_call.made_at', done ? 'desc' : 'asc')
    .orderBy('customer_call.id')
    .$if(done, (query) => query.limit(MOST_DONE))
    .execute();
  const { count } = await db
    .selectFrom('customer_call')
    .select(({ fn }) => fn.countAll<string>().as('count'))
    .where('done_at', 'is', null)
    .executeTakeFirstOrThrow();
  return {
    open: Number(count),
    calls: rows.map((row): CallView => ({
      id: row.id,
      order: row.order_id,
      number: row.number!,
      line: row.line_id,
      lineNo: row.line_no,
      customer: row.name,
      contact: row.contact,
      phone: row.phone,
      item: row.item,
      told: row.told,
      holds: row.holds,
      say: row.say,
      why: row.why,
      madeAt: row.made_at.toISOString(),
      madeBy: row.maker ?? '',
      doneAt: row.done_at?.toISOString() ?? null,
      doneBy: row.caller ?? '',
    })),
  };
}

/** The same quantities on the same days. */
export function sameParts(a: readonly PromisePart[], b: readonly PromisePart[]): boolean {
  return a.length === b.length && a.every((part, at) => part.day === b[at]!.day && Number(part.quantity) === Number(b[at]!.quantity));
}
