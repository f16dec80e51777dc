import type { ItemCode } from '@nockwright/core/ids';
import type { Cause } from '@nockwright/contract/history';
import type { PromisePart } from '@nockwright/contract/promise';
import type { CallList, CallView } from '@nockwright/contract/worklist';
import { dayByName } from '@nockwright/core/calendar';
import { sayChange, withoutLast } from '@nockwright/core/promise';
import { anyOf, insertRows, type Db } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound, Refusal } from '../http/refusal';
import { mapInTurns } from '../work';

export interface NewCall {
  readonly order: number;
  readonly line: number;
  /** What was promised before. */
  readonly told: readonly PromisePart[];
  readonly holds: readonly PromisePart[];
  /** What of it the customer agreed not to get. */
  readonly givenUp?: string;
  readonly item: ItemCode;
  readonly cause: Cause;
}

const MOST_DONE = 200;

/**
 * Notes that customers must be told, one call a line. Where a call about a line is still to be made, the customer knows
 * only what that one says they were told: it is superseded; where the promise is back to that, there is nothing to tell.
 */
export async function addCalls({ trx, user, now }: CommandContext, calls: readonly NewCall[]): Promise<void> {
  if (calls.length === 0) return;
  const open = await trx
    .selectFrom('customer_call')
    .select(['line_id', 'told'])
    .where('done_at', 'is', null)
    .where(
      anyOf(
        'line_id',
        calls.map((call) => call.line),
      ),
    )
    .execute();
  if (open.length > 0)
    await trx
      .updateTable('customer_call')
      .set({ done_at: now.instant, done_by: user.id || null, outcome: 'superseded' })
      .where('done_at', 'is', null)
      .where(
        anyOf(
          'line_id',
          open.map((row) => row.line_id),
        ),
      )
      .execute();
  const openOf = new Map(open.map((row) => [row.line_id, row.told]));
  const made = await mapInTurns(calls, ({ order, line, item, told: before, holds, givenUp, cause }) => {
    const told = withoutLast(openOf.get(line) ?? before, givenUp ?? '0');
    // A call may be made another day: its sentence names the days.
    const say = sayChange(told, holds, item, now.today, { name: dayByName });
    if (say === '') return [];
    const made = { made_at: now.instant, made_by: user.id || null, done_at: null, done_by: null, outcome: null };
    return [{ order_id: order, line_id: line, told: JSON.stringify(told), holds: JSON.stringify(holds), say, cause: JSON.stringify(cause), ...made }];
  });
  await insertRows(trx, 'customer_call', made.flat(), ['told', 'holds', 'cause']);
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
    ...(told
      ? { kind: 'customer.told' as const, facts: { lineNo: call.line_no, item: call.item, say: call.say } }
      : { kind: 'call.reopened' as const, facts: { lineNo: call.line_no, item: call.item } }),
    subjects: [{ kind: 'order', key: call.order_id }],
  });
  return listCalls(trx, {});
}

/** Calls to be made, oldest first, or those made last. */
export async function listCalls(db: Db, filter: { readonly order?: number; readonly customer?: number; readonly state?: 'open' | 'done' }): Promise<CallList> {
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
      'customer.id as customer_id',
      'customer.contact',
      'customer.phone',
      'maker.name as maker',
      'caller.name as caller',
    ])
    .where(done ? 'customer_call.outcome' : 'customer_call.done_at', done ? '=' : 'is', done ? 'told' : null)
    .$if(filter.order !== undefined, (query) => query.where('customer_call.order_id', '=', filter.order!))
    .$if(filter.customer !== undefined, (query) => query.where('sales_order.customer_id', '=', filter.customer!))
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
      customerId: row.customer_id,
      contact: row.contact,
      phone: row.phone,
      item: row.item,
      told: row.told,
      holds: row.holds,
      say: row.say,
      cause: row.cause,
      why: row.why ?? '',
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
