import { shortDay } from '@nockwright/core/calendar';
import { kindOfAnswer, readDespatchAdvice, readOrderResponse, type DespatchAdviceMessage, type OrderResponseMessage } from '@nockwright/core/exchange';
import { compareDecimal, minus, plus, sum } from '@nockwright/core/money';
import { notify, recordEvent } from '../../events';
import type { CommandContext, CurrentUser } from '../../http/context';
import { Refusal } from '../../http/refusal';
import { closeLine } from '../close-line';
import { confirmDespatch } from '../confirm-despatch';
import { loadPurchaseLines, touchPurchase, type PurchaseLineRecord } from '../load-purchase';
import { marginInWords, marginsAt } from '../cost-ripple';
import { describe, reschedule } from '../reschedule';
import { newlyHurt, standingOfPromises } from './newly-hurt';

/** What Nockwright does of itself. */
export const NOBODY: CurrentUser = { id: 0, login: '', name: 'Nockwright', role: 'coordinator' };

interface Purchase {
  readonly id: number;
  readonly number: string;
  readonly state: string;
  readonly kind: 'stock' | 'drop_ship';
  readonly supplier: string;
  readonly supplier_name: string;
}

/** A file from a supplier's folder. */
export interface AnswerFile {
  readonly supplier: string;
  readonly name: string;
  readonly content: string;
}

/**
 * Acts on what a supplier says in a file, as one change: their days, quantities and costs hold from now on, goods that left
 * for a customer are shipped, goods that left for us are announced. Promises stand as told; those that its news leave
 * without goods in time are named. A message that came before does nothing. Throws a Refusal where it cannot be acted on.
 */
export async function takeAnswer(context: CommandContext, { supplier, name, content }: AnswerFile): Promise<void> {
  const { trx, now } = context;
  const kind = kindOfAnswer(content);
  if (!kind.ok) throw unreadable(kind.faults);
  const read = kind.document === 'OrderResponse' ? readOrderResponse(content) : readDespatchAdvice(content);
  if (!read.ok) throw unreadable(read.faults);
  const message = read.document;
  const stored = kind.document === 'OrderResponse' ? ('order_response' as const) : ('despatch_advice' as const);
  const purchase = await findPurchase(context, supplier, message.order);
  const inserted = await trx
    .insertInto('exchange_message')
    .values({ supplier, direction: 'in', kind: stored, purchase_id: purchase.id, number: message.number, file: name, content, at: now.instant, state: 'taken' })
    // The index knows each message once: whoever comes second waits for the first and finds it here.
    .onConflict((conflict) => conflict.columns(['supplier', 'kind', 'number']).where('direction', '=', 'in').where('state', '=', 'taken').doNothing())
    .returning('id')
    .executeTakeFirst();
  if (!inserted) return;
  const { says, lines: hurts } =
    'tracking' in message ? { says: await takeDespatch(context, purchase, message), lines: [] } : await takeResponse(context, purchase, message);
  await trx
    .updateTable('exchange_message')
    .set({ says, hurts, needs_look: says.length > 0 })
    .where('id', '=', inserted.id)
    .execute();
  await notify(trx, [`supplier:${supplier}`, `purchase:${purchase.id}`]);
}

/** Keeps a file that could not be acted on, with why: it comes up as work. */
export async function keepRefused(context: CommandContext, { supplier, name, content }: AnswerFile, faults: readonly string[]): Promise<void> {
  const kind = kindOfAnswer(content);
  const read = kind.ok ? (kind.document === 'OrderResponse' ? readOrderResponse(content) : readDespatchAdvice(content)) : kind;
  const about = kind.ok && read.ok ? (read.document as OrderResponseMessage | DespatchAdviceMessage) : null;
  const purchase = about
    ? await context.trx.selectFrom('purchase_order').select('id').where('number', '=', about.order).where('supplier', '=', supplier).executeTakeFirst()
    : undefined;
  await context.trx
    .insertInto('exchange_message')
    .values({
      supplier,
      direction: 'in',
      kind: kind.ok ? (kind.document === 'OrderResponse' ? 'order_response' : 'despatch_advice') : 'unreadable',
      purchase_id: purchase?.id ?? null,
      number: about?.number ?? name,
      file: name,
      // PostgreSQL keeps no NUL in a text.
      content: content.replaceAll('\u0000', '').slice(0, 200_000),
      at: context.now.instant,
      state: 'refused',
      says: [...faults],
      needs_look: true,
    })
    .execute();
  await recordEvent(context, {
    what: `could not act on the file ${name} from ${supplier}`,
    why: faults.join('; ').slice(0, 1000),
    subjects: [{ kind: 'supplier', key: supplier }, ...(purchase ? [{ kind: 'purchase' as const, key: purchase.id }] : [])],
  });
}

function unreadable(faults: readonly string[]): Refusal {
  return new Refusal(
    'invalid',
    faults.join('; '),
    faults.map((message) => ({ field: 'file', message })),
  );
}

async function findPurchase({ trx }: CommandContext, supplier: string, number: string): Promise<Purchase> {
  const purchase = await trx
    .selectFrom('purchase_order')
    .innerJoin('supplier', 'supplier.code', 'purchase_order.supplier')
    .select([
      'purchase_order.id',
      'purchase_order.number',
      'purchase_order.state',
      'purchase_order.kind',
      'purchase_order.supplier',
      'supplier.name as supplier_name',
    ])
    .where('purchase_order.number', '=', number)
    .where('purchase_order.supplier', '=', supplier)
    .executeTakeFirst();
  if (!purchase) throw new Refusal('invalid', `${supplier} has no purchase order ${number} of ours.`);
  if (purchase.state === 'draft') throw new Refusal('invalid', `Purchase ${number} is a draft: it was never sent.`);
  return purchase;
}

/** What the answer says that is not as ordered, sentence by sentence, and the order lines it hurts. */
async function takeResponse(
  context: CommandContext,
  purchase: Purchase,
  response: OrderResponseMessage,
): Promise<{ readonly says: string[]; readonly lines: number[] }> {
  const { trx } = context;
  const lines = await loadPurchaseLines(trx, purchase.id);
  const before = await standingOfPromises(
    context,
    lines.map((line) => line.item),
  );
  const says: string[] = response.note === '' ? [] : [`They write: “${response.note}”`];
  const note = `answer ${response.number} of ${purchase.supplier_name}`;
  for (const answer of response.lines) {
    const line = (await loadPurchaseLines(trx, purchase.id)).find((row) => String(row.line_no) === answer.id);
    if (!line) throw new Refusal('invalid', `Line ${answer.id}: purchase ${purchase.number} has no such line.`);
    says.push(...(await takeLine(context, purchase, line, answer, note)));
  }
  const { state } = await trx.selectFrom('purchase_order').select('state').where('id', '=', purchase.id).executeTakeFirstOrThrow();
  if (state === 'sent') {
    await trx.updateTable('purchase_order').set({ state: 'acknowledged' }).where('id', '=', purchase.id).execute();
    await touchPurchase(trx, purchase.id);
  }
  await recordEvent(context, {
    what: `${purchase.supplier_name} acknowledged purchase ${purchase.number}${says.length > 0 ? ', not all as ordered' : ''}`,
    why: `message ${response.number}`,
    subjects: [
      { kind: 'purchase', key: purchase.id },
      { kind: 'supplier', key: purchase.supplier },
    ],
  });
  const hurt = await newlyHurt(context, before);
  return { says: [...says, ...hurt.says], lines: hurt.lines };
}

/** How many orders are named whose margin another cost changes, the worst first. */
const MOST_MARGINS = 3;

type LineAnswer = OrderResponseMessage['lines'][number];

async function takeLine(context: CommandContext, purchase: Purchase, line: PurchaseLineRecord, answer: LineAnswer, note: string): Promise<string[]> {
  const { now } = context;
  const name = `Line ${line.line_no}, ${line.item}`;
  const instead = answer.instead === null ? [] : [`${name}: they offer their ${answer.instead} instead`];
  const remark = answer.note === '' ? [] : [`${name}: “${answer.note}”`];
  const version = async () =>
    (await context.trx.selectFrom('purchase_order').select('version').where('id', '=', purchase.id).executeTakeFirstOrThrow()).version;
  if (line.open === '0') return [`${name}: nothing more of it is awaited, their answer changes nothing`, ...remark];
  if (answer.answer === 'refused') {
    await closeLine(context, purchase.id, line.id, await version(), `refused in ${note}`);
    return [`${name}: they do not take the ${line.open}`, ...instead, ...remark];
  }
  const says: string[] = [];
  let expectedDay = answer.day ?? line.expected_day;
  if (expectedDay !== line.expected_day && expectedDay < now.today) {
    says.push(`${name}: they name ${shortDay(expectedDay, now.today)}, which has passed; the day is left as it is`);
    expectedDay = line.expected_day;
  }
  let open = answer.quantity === null ? line.open : still(answer.quantity, line);
  if (line.warehouse === null && compareDecimal(open, line.open) > 0) {
    says.push(`${name}: they would ship ${answer.quantity}, more than our customer ordered; the quantity is left as it is`);
    open = line.open;
  }
  const cost = answer.price ?? line.cost;
  const same = expectedDay === line.expected_day && compareDecimal(open, line.open) === 0 && compareDecimal(cost, line.cost) === 0;
  if (!same) {
    const margins = await marginsAt(context.trx, now, purchase.number, line, cost);
    if (compareDecimal(open, '0') === 0) await closeLine(context, purchase.id, line.id, await version(), `not sent, by ${note}`);
    else await reschedule(context, purchase.id, line.id, { version: await version(), expectedDay, open, cost, note });
    says.push(`${name}: ${describe(line, { expectedDay, open, cost }, now.today)}`);
    says.push(...margins.slice(0, MOST_MARGINS).map(marginInWords));
  }
  return [...says, ...instead, ...remark];
}

/** What is still to come of a line of which they send so much in all; never under nothing. */
function still(quantity: string, line: PurchaseLineRecord): string {
  const open = minus(quantity, line.received);
  return compareDecimal(open, '0') > 0 ? open : '0';
}

/** Goods have left: for a customer they are shipped, for us they are announced to whoever will take them in. */
async function takeDespatch(context: CommandContext, purchase: Purchase, advice: DespatchAdviceMessage): Promise<string[]> {
  const { trx } = context;
  const lines = await loadPurchaseLines(trx, purchase.id);
  const sent = advice.lines.map((row) => {
    const line = lines.find((known) => String(known.line_no) === row.orderLine);
    if (!line) throw new Refusal('invalid', `Line ${row.orderLine}: purchase ${purchase.number} has no such line.`);
    if (compareDecimal(row.quantity, '0') <= 0) throw new Refusal('invalid', `Line ${row.orderLine}: expected a quantity above 0.`);
    return { ...row, line };
  });
  const byLine = new Map<number, string>();
  for (const { line, quantity } of sent) byLine.set(line.id, plus(byLine.get(line.id) ?? '0', quantity));
  const says = lines.flatMap((line) => {
    const announced = byLine.get(line.id);
    if (announced === undefined || compareDecimal(announced, line.open) === 0) return [];
    return [`Line ${line.line_no}, ${line.item}: ${announced} have left, ${line.open} were awaited`];
  });
  if (purchase.kind === 'drop_ship') {
    const { version } = await trx.selectFrom('purchase_order').select('version').where('id', '=', purchase.id).executeTakeFirstOrThrow();
    await confirmDespatch(context, purchase.id, {
      version,
      tracking: advice.tracking.slice(0, 80),
      lines: [...byLine].map(([line, quantity]) => ({ line, quantity })),
    });
    return says;
  }
  const { id } = await trx
    .insertInto('despatch_notice')
    .values({ purchase_id: purchase.id, number: advice.number, day: advice.issueDay, tracking: advice.tracking.slice(0, 200) })
    .returning('id')
    .executeTakeFirstOrThrow();
  await trx
    .insertInto('despatch_notice_line')
    .values(sent.map(({ line, quantity, lot, expires }, at) => ({ notice_id: id, position: at + 1, purchase_line_id: line.id, quantity, lot, expires })))
    .execute();
  await recordEvent(context, {
    what: `${purchase.supplier_name} has sent ${sum([...byLine.values()])} of purchase ${purchase.number} in ${byLine.size === 1 ? 'one line' : `${byLine.size} lines`}`,
    why: `message ${advice.number}${advice.tracking ? `, tracking ${advice.tracking}` : ''}`,
    subjects: [
      { kind: 'purchase', key: purchase.id },
      { kind: 'supplier', key: purchase.supplier },
    ],
  });
  return says;
}
