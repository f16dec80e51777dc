import type { SupplierCode } from '@nockwright/core/ids';
import { lineChangeWords } from '@nockwright/contract/history';
import { answerInStockingUnits, type OrderResponseMessage } from '@nockwright/core/exchange';
import { loadPurchaseLines, touchPurchase, type PurchaseLineRecord } from '../load-purchase';
import { minus, compareDecimal } from '@nockwright/core/money';
import { shortDay } from '@nockwright/core/calendar';
import type { CommandContext } from '../../http/context';
import { closeLine } from '../close-line';
import { marginsAt, marginInWords } from '../cost-ripple';
import { reschedule, changeOf } from '../reschedule';
import type { Purchase, Taken } from './answered-purchase';
import { Refusal } from '../../http/refusal';
import { beyondTolerance, type Tolerance } from './beyond-tolerance';
import { recordEvent } from '../../events';
import { loadCostLimits } from '../check-costs';
import { standingOfPromises, newlyHurt } from './newly-hurt';

export type LineAnswer = OrderResponseMessage['lines'][number];
/** How many orders are named whose margin another cost changes, the worst first. */
export const MOST_MARGINS = 3;
/** What is still to come of a line of which they send so much in all; never under nothing. */
export function still(quantity: string, line: PurchaseLineRecord): string {
  const open = minus(quantity, line.received);
  return compareDecimal(open, '0') > 0 ? open : '0';
}

export async function takeLine(context: CommandContext, purchase: Purchase, line: PurchaseLineRecord, answer: LineAnswer, note: string): Promise<string[]> {
  const { now } = context;
  const name = `Line ${line.line_no}, ${line.item}`;
  const instead = answer.instead === null ? [] : [`${name}: they offer their ${answer.instead} instead`];
  const remark = answer.note === '' ? [] : [`${name}: “${answer.note}”`];
  const version = async () =>
    (await context.trx.selectFrom('purchase_order').select('version').where('id', '=', purchase.id).executeTakeFirstOrThrow()).version;
  if (line.open === '0') return [`${name}: nothing more of it is expected, their response changes nothing`, ...remark];
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
    says.push(`${name}: ${lineChangeWords(changeOf(line, { expectedDay, open, cost }), now.today)}`);
    says.push(...margins.slice(0, MOST_MARGINS).map(marginInWords));
  }
  return [...says, ...instead, ...remark];
}

export function lineNamed(lines: readonly PurchaseLineRecord[], id: string, purchase: Purchase): PurchaseLineRecord {
  const line = lines.find((row) => String(row.line_no) === id);
  if (!line) throw new Refusal('invalid', `Line ${id}: purchase ${purchase.number} has no such line.`);
  return line;
}

/** The answers line by line in stocking units. A whole refusal is one of each line. Throws where a line or a unit is not known. */
export async function inStockingUnits(
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

/** What their units hold, by item. */
export async function unitsOf(
  { trx }: CommandContext,
  supplier: SupplierCode,
  lines: readonly PurchaseLineRecord[],
): Promise<Map<string, Map<string, string>>> {
  const items = [...new Set(lines.map((line) => line.item))];
  const rows = await trx.selectFrom('supplier_unit').selectAll().where('supplier', '=', supplier).where('item', 'in', items).execute();
  const byItem = new Map<string, Map<string, string>>(items.map((item) => [item, new Map()]));
  for (const { item, unit, quantity } of rows) byItem.get(item)!.set(unit, quantity);
  return byItem;
}

export async function toleranceOf({ trx }: CommandContext, supplier: SupplierCode): Promise<Tolerance> {
  return trx.selectFrom('supplier').select(['price_tolerance', 'day_tolerance']).where('code', '=', supplier).executeTakeFirstOrThrow();
}

/** What the answer says that is not as ordered, sentence by sentence, and the order lines it hurts. */
export async function takeResponse(
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
    kind: 'answer.came',
    facts: { supplier: purchase.supplier_name, purchase: purchase.number, said: refused ? 'refused' : says.length > 0 ? 'otherwise' : 'as_ordered' },
    why: `message ${response.number}`,
    subjects: [
      { kind: 'purchase', key: purchase.id },
      { kind: 'supplier', key: purchase.supplier },
    ],
  });
  const hurt = await newlyHurt(context, before);
  return { says: [...says, ...hurt.says], lines: hurt.lines };
}
