import { shortDay } from '@nockwright/core/calendar';
import {
  answerInStockingUnits,
  kindOfAnswer,
  readDespatchAdvice,
  readOrderResponse,
  type DespatchAdviceMessage,
  type OrderResponseMessage,
  type Read,
} from '@nockwright/core/exchange';
import { compareDecimal, minus, plus, sum } from '@nockwright/core/money';
import { notify, recordEvent } from '../../events';
import type { CommandContext, CurrentUser } from '../../http/context';
import { notFound, Refusal } from '../../http/refusal';
import { lockOrders, lockPools, lockPurchases } from '../../promise';
import type { Task } from '../../work';
import { loadCostLimits } from '../check-costs';
import { closeLine } from '../close-line';
import { confirmDespatch } from '../confirm-despatch';
import { loadPurchaseLines, touchPurchase, type PurchaseLineRecord } from '../load-purchase';
import { marginInWords, marginsAt } from '../cost-ripple';
import { describe, reschedule } from '../reschedule';
import { beyondTolerance, type Tolerance } from './beyond-tolerance';
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
  readonly order_id: number | null;
}

/** What a message comes to: what is not as ordered, the order lines it hurts, and whether it waits for a person. */
interface Taken {
  readonly says: readonly string[];
  readonly lines: readonly number[];
  readonly held?: true;
  /** Not as ordered, and no work for anybody. */
  readonly quiet?: true;
}

/** A file from a supplier's folder. */
export interface AnswerFile {
  readonly supplier: string;
  readonly name: string;
  readonly content: string;
  /** What it says, where somebody has read it already. */
  readonly read?: MessageRead;
}

export type MessageRead = Read<OrderResponseMessage | DespatchAdviceMessage>;

/**
 * Acts on what a supplier says in a file, as one change: their days, quantities and costs hold from now on, goods that left
 * for a customer are shipped, goods that left for us are announced. Promises stand as told; those that its news leave
 * without goods in time are named. An answer beyond what may hold by itself changes nothing: it waits for a person. A message
 * that came before does nothing. Throws a Refusal where it cannot be acted on.
 */
export async function takeAnswer(context: CommandContext, { supplier, name, content, read }: AnswerFile): Promise<void> {
  const { trx, now } = context;
  const message = documentOf(read ?? readMessageTask.run(content));
  const kind = 'tracking' in message ? ('despatch_advice' as const) : ('order_response' as const);
  const purchase = await findPurchase(context, supplier, message.order);
  await lockWhole(context, purchase.id);
  const inserted = await trx
    .insertInto('exchange_message')
    .values({ supplier, direction: 'in', kind, purchase_id: purchase.id, number: message.number, file: name, content, at: now.instant, state: 'taken' })
    // The index knows each message once: whoever comes second waits for the first and finds it here.
    .onConflict((conflict) =>
      conflict.columns(['supplier', 'kind', 'number']).where('direction', '=', 'in').where('state', 'in', ['taken', 'held']).doNothing(),
    )
    .returning('id')
    .executeTakeFirst();
  if (!inserted) return;
  const { says, lines, held, quiet }: Taken =
    'tracking' in message ? await takeDespatch(context, purchase, message) : await takeResponse(context, purchase, message, 'within tolerance');
  await trx
    .updateTable('exchange_message')
    .set({ says: [...says], hurts: [...lines], needs_look: says.length > 0 && !quiet, ...(held ? { state: 'held' } : {}) })
    .where('id', '=', inserted.id)
    .execute();
  await notify(trx, [`supplier:${supplier}`, `purchase:${purchase.id}`]);
}

/** A person decides on an answer that waits: it holds as they say, or everything stays as it was ordered. */
export async function decideAnswer(context: CommandContext, messageId: number, take: boolean): Promise<void> {
  const { trx } = context;
  const row = await trx.selectFrom('exchange_message').selectAll().where('id', '=', messageId).forNoKeyUpdate().executeTakeFirst();
  if (!row) throw notFound(`message ${messageId}`);
  if (row.state !== 'held') throw new Refusal('conflict', `Message ${row.number} does not wait for a decision.`);
  const message = documentOf(readMessageTask.run(row.content)) as OrderResponseMessage;
  const purchase = await findPurchase(context, row.supplier, message.order);
  await lockWhole(context, purchase.id);
  if (take) {
    const { says, lines } = await takeResponse(context, purchase, message, 'whatever they say');
    await trx
      .updateTable('exchange_message')
      .set({ state: 'taken', says: [...says], hurts: [...lines], needs_look: lines.length > 0 })
      .where('id', '=', messageId)
      .execute();
  } else await trx.updateTable('exchange_message').set({ state: 'refused', needs_look: false }).where('id', '=', messageId).execute();
  await recordEvent(context, {
    what: take
      ? `took answer ${row.number} of ${purchase.supplier_name} to purchase ${purchase.number} as it is`
      : `did not take answer ${row.number} of ${purchase.supplier_name}: purchase ${purchase.number} stands as ordered`,
    why: row.says.join('; ').slice(0, 1000),
    subjects: [
      { kind: 'purchase', key: purchase.id },
      { kind: 'supplier', key: row.supplier },
    ],
  });
  await notify(trx, [`supplier:${row.supplier}`, `purchase:${purchase.id}`]);
}

/** Locks all that an answer may change, once for all of its lines: orders they are for, the purchase, and its pools. */
async function lockWhole({ trx }: CommandContext, purchaseId: number): Promise<void> {
  const lines = await trx
    .selectFrom('purchase_line')
    .leftJoin('order_line', 'order_line.id', 'purchase_line.order_line_id')
    .select(['purchase_line.item', 'purchase_line.warehouse', 'order_line.order_id'])
    .where('purchase_id', '=', purchaseId)
    .execute();
  await lockOrders(trx, [...new Set(lines.flatMap((line) => line.order_id ?? []))]);
  await lockPurchases(trx, [purchaseId]);
  await lockPools(
    trx,
    lines.flatMap(({ item, warehouse }) => (warehouse === null ? [] : [{ item, warehouse }])),
  );
}

/** A supplier's file as the document it is, or what is wrong with it. */
export const readMessageTask = {
  name: 'readMessage',
  run: (content: string): MessageRead => {
    const kind = kindOfAnswer(content);
    if (!kind.ok) return kind;
    return kind.document === 'OrderResponse' ? readOrderResponse(content) : readDespatchAdvice(content);
  },
} satisfies Task<string, MessageRead>;

function documentOf(read: MessageRead): OrderResponseMessage | DespatchAdviceMessage {
  if (!read.ok) throw unreadable(read.faults);
  return read.document;
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
      'purchase_order.order_id',
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
  limit: 'within tolerance' | 'whatever they say',
): Promise<Taken> {
  const { trx, now } = context;
  const remark = response.note === '' ? [] : [`They write: “${response.note}”`];
  if (response.whole === 'received') return { says: ['They have the order, and have not said yet what they make of it', ...remark], lines: [], quiet: true };
  if (response.whole === 'changed' && response.lines.length === 0)
    return { says: ['They agree on conditions that the file does not name: ask them', ...remark], lines: [] };
  const lines = await loadPurchaseLines(trx, purchase.id);
  const answers = await inStockingUnits(context, purchase, lines, response);
  if (limit === 'within tolerance') {
    const tolerance = await toleranceOf(context, purchase.supplier);
    const limits = await loadCostLimits(
      trx,
      purchase.supplier,
      lines.map((line) => line.item),
    );
    const waits = answers.flatMap((answer) =>
      beyondTolerance(
        lines.find((row) => String(row.line_no) === answer.id)!,
        answer,
        tolerance,
        limits,
        now.today,
      ),
    );
    if (waits.length > 0) return { says: [...waits, ...remark], lines: [], held: true };
  }
  const before = await standingOfPromises(
    context,
    lines.map((line) => line.item),
  );
  const says: string[] = [...remark];
  const note = `answer ${response.number} of ${purchase.supplier_name}`;
  for (const answer of answers) {
    const line = (await loadPurchaseLines(trx, purchase.id)).find((row) => String(row.line_no) === answer.id)!;
    says.push(...(await takeLine(context, purchase, line, answer, note)));
  }
  const { state } = await trx.selectFrom('purchase_order').select('state').where('id', '=', purchase.id).executeTakeFirstOrThrow();
  const refused = answers.length > 0 && answers.every((answer) => answer.answer === 'refused');
  if (state === 'sent') {
    await trx.updateTable('purchase_order').set({ state: 'acknowledged' }).where('id', '=', purchase.id).execute();
    await touchPurchase(trx, purchase.id);
  }
  await recordEvent(context, {
    what: refused
      ? `${purchase.supplier_name} refused purchase ${purchase.number}`
      : `${purchase.supplier_name} acknowledged purchase ${purchase.number}${says.length > 0 ? ', not all as ordered' : ''}`,
    why: `message ${response.number}`,
    subjects: [
      { kind: 'purchase', key: purchase.id },
      { kind: 'supplier', key: purchase.supplier },
    ],
  });
  const hurt = await newlyHurt(context, before);
  return { says: [...says, ...hurt.says], lines: hurt.lines };
}

async function toleranceOf({ trx }: CommandContext, supplier: string): Promise<Tolerance> {
  return trx.selectFrom('supplier').select(['price_tolerance', 'day_tolerance']).where('code', '=', supplier).executeTakeFirstOrThrow();
}

/** What their units hold, by item. */
async function unitsOf({ trx }: CommandContext, supplier: string, lines: readonly PurchaseLineRecord[]): Promise<Map<string, Map<string, string>>> {
  const items = [...new Set(lines.map((line) => line.item))];
  const rows = await trx.selectFrom('supplier_unit').selectAll().where('supplier', '=', supplier).where('item', 'in', items).execute();
  const byItem = new Map<string, Map<string, string>>(items.map((item) => [item, new Map()]));
  for (const { item, unit, quantity } of rows) byItem.get(item)!.set(unit, quantity);
  return byItem;
}

/** The answers line by line in stocking units. A whole refusal is one of each line. Throws where a line or a unit is not known. */
async function inStockingUnits(
  context: CommandContext,
  purchase: Purchase,
  lines: readonly PurchaseLineRecord[],
  response: OrderResponseMessage,
): Promise<LineAnswer[]> {
  if (response.whole === 'refused' && response.lines.length === 0)
    return lines
      .filter((line) => line.open !== '0')
      .map((line) => ({ id: String(line.line_no), answer: 'refused', quantity: null, day: null, price: null, note: '', instead: null }));
  const units = await unitsOf(context, purchase.supplier, lines);
  return response.lines.map((answer) => {
    const line = lineNamed(lines, answer.id, purchase);
    const { unit = null, priceFor = null, priceUnit = null } = answer;
    const said = answerInStockingUnits({ ...answer, unit, priceFor, priceUnit }, line.unit, units.get(line.item)!);
    if (!said.ok) throw new Refusal('invalid', `Line ${answer.id}, ${line.item}: ${said.fault}.`);
    return { ...answer, quantity: said.quantity, price: said.price };
  });
}

function lineNamed(lines: readonly PurchaseLineRecord[], id: string, purchase: Purchase): PurchaseLineRecord {
  const line = lines.find((row) => String(row.line_no) === id);
  if (!line) throw new Refusal('invalid', `Line ${id}: purchase ${purchase.number} has no such line.`);
  return line;
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
async function takeDespatch(context: CommandContext, purchase: Purchase, advice: DespatchAdviceMessage): Promise<Taken> {
  const { trx } = context;
  const lines = await loadPurchaseLines(trx, purchase.id);
  const units = await unitsOf(context, purchase.supplier, lines);
  const sent = advice.lines.map((row) => {
    const line = lineNamed(lines, row.orderLine, purchase);
    if (compareDecimal(row.quantity, '0') <= 0) throw new Refusal('invalid', `Line ${row.orderLine}: expected a quantity above 0.`);
    const said = answerInStockingUnits(
      { quantity: row.quantity, unit: row.unit ?? null, price: null, priceFor: null, priceUnit: null },
      line.unit,
      units.get(line.item)!,
    );
    if (!said.ok) throw new Refusal('invalid', `Line ${row.orderLine}, ${line.item}: ${said.fault}.`);
    return { ...row, quantity: said.quantity!, line };
  });
  const byLine = new Map<number, string>();
  for (const { line, quantity } of sent) byLine.set(line.id, plus(byLine.get(line.id) ?? '0', quantity));
  const announced = lines.flatMap((line) => (byLine.has(line.id) ? [{ line, quantity: byLine.get(line.id)! }] : []));
  const says = announced.flatMap(({ line, quantity }) =>
    compareDecimal(quantity, line.open) === 0 ? [] : [`Line ${line.line_no}, ${line.item}: ${quantity} have left, ${line.open} were awaited`],
  );
  if (purchase.kind === 'drop_ship') {
    // What was taken back and left all the same is no shipment of the order: somebody has to speak with the customer.
    const unwanted = announced.filter(({ line, quantity }) => compareDecimal(quantity, line.open) > 0);
    if (unwanted.length > 0)
      return { says: [...says, ...(await inSpiteOf(context, purchase, advice.number))], lines: unwanted.map(({ line }) => line.order_line_id!) };
    const { version } = await trx.selectFrom('purchase_order').select('version').where('id', '=', purchase.id).executeTakeFirstOrThrow();
    await confirmDespatch(context, purchase.id, {
      version,
      tracking: advice.tracking.slice(0, 80),
      lines: [...byLine].map(([line, quantity]) => ({ line, quantity })),
    });
    return { says, lines: [] };
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
  const unasked = announced.some(({ line }) => line.open === '0');
  return { says: unasked ? [...says, 'Nothing more was awaited: take in what comes, or have it sent back'] : says, lines: [] };
}

/** Goods left for a customer although nothing more of them was ordered. */
async function inSpiteOf(context: CommandContext, purchase: Purchase, number: string): Promise<string[]> {
  const order = await context.trx
    .selectFrom('sales_order')
    .innerJoin('customer', 'customer.id', 'sales_order.customer_id')
    .select(['sales_order.number', 'customer.name'])
    .where('sales_order.id', '=', purchase.order_id!)
    .executeTakeFirstOrThrow();
  await recordEvent(context, {
    what: `${purchase.supplier_name} has shipped more of purchase ${purchase.number} than was still ordered`,
    why: `message ${number}`,
    subjects: [
      { kind: 'purchase', key: purchase.id },
      { kind: 'supplier', key: purchase.supplier },
      { kind: 'order', key: purchase.order_id! },
    ],
  });
  return [`It goes to ${order.name}, order ${order.number}, who do not expect it: call them, and agree with the supplier who takes it back`];
}
