import type { SupplierCode } from '@nockwright/core/ids';
import type { Cause, Finding } from '@nockwright/contract/history';
import { answerInStockingUnits, beyondTolerance, type OrderResponseMessage, type Tolerance } from '@nockwright/core/exchange';
import { loadPurchaseLines, touchPurchase, type PurchaseLineRecord } from '../load-purchase';
import { minus, compareDecimal } from '@nockwright/core/money';
import type { CommandContext } from '../../http/context';
import { closeLine } from '../close-line';
import { marginsAt } from '../cost-ripple';
import { reschedule, changeOf } from '../reschedule';
import type { Purchase, Taken } from './answered-purchase';
import { Refusal } from '../../http/refusal';
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

/** Takes what is said of one line: their day, quantity and cost hold from now on. Gives what is not as ordered. */
export async function takeLine(context: CommandContext, purchase: Purchase, line: PurchaseLineRecord, answer: LineAnswer, cause: Cause): Promise<Finding[]> {
  const { now } = context;
  const of = { lineNo: line.line_no, item: line.item };
  const instead: Finding[] = answer.instead === null ? [] : [{ about: 'offered_instead', ...of, theirs: answer.instead }];
  const remark: Finding[] = answer.note === '' ? [] : [{ about: 'remark', ...of, words: answer.note }];
  const version = async () =>
    (await context.trx.selectFrom('purchase_order').select('version').where('id', '=', purchase.id).executeTakeFirstOrThrow()).version;
  if (line.open === '0') return [{ about: 'nothing_expected', ...of }, ...remark];
  if (answer.answer === 'refused') {
    await closeLine(context, purchase.id, line.id, await version(), { cause });
    return [{ about: 'not_taken', ...of, quantity: line.open }, ...instead, ...remark];
  }
  const findings: Finding[] = [];
  let expectedDay = answer.day ?? line.expected_day;
  if (expectedDay !== line.expected_day && expectedDay < now.today) {
    findings.push({ about: 'day_passed', ...of, day: expectedDay });
    expectedDay = line.expected_day;
  }
  let open = answer.quantity === null ? line.open : still(answer.quantity, line);
  if (line.warehouse === null && compareDecimal(open, line.open) > 0) {
    findings.push({ about: 'more_than_customer', ...of, quantity: answer.quantity! });
    open = line.open;
  }
  const cost = answer.price ?? line.cost;
  const same = expectedDay === line.expected_day && compareDecimal(open, line.open) === 0 && compareDecimal(cost, line.cost) === 0;
  if (!same) {
    const margins = await marginsAt(context.trx, now, purchase.number, line, cost);
    if (compareDecimal(open, '0') === 0) await closeLine(context, purchase.id, line.id, await version(), { cause });
    else await reschedule(context, purchase.id, line.id, { version: await version(), expectedDay, open, cost, cause });
    findings.push({ about: 'changed', ...of, ...changeOf(line, { expectedDay, open, cost }) });
    for (const { quantity, number, lineNo, before, after } of margins.slice(0, MOST_MARGINS))
      findings.push({ about: 'margin', quantity, order: number, lineNo, before, after });
  }
  return [...findings, ...instead, ...remark];
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
  return trx.selectFrom('supplier').select(['price_tolerance as percent', 'day_tolerance as days']).where('code', '=', supplier).executeTakeFirstOrThrow();
}

/** What the answer says that is not as ordered, and the order lines it hurts. */
export async function takeResponse(
  context: CommandContext,
  purchase: Purchase,
  response: OrderResponseMessage,
  limit: 'within tolerance' | 'whatever they say',
): Promise<Taken> {
  const { trx, now } = context;
  const remark: Finding[] = response.note === '' ? [] : [{ about: 'remark', lineNo: null, item: null, words: response.note }];
  if (response.whole === 'received') return { findings: [{ about: 'received_only' }, ...remark], lines: [], quiet: true };
  if (response.whole === 'changed' && response.lines.length === 0) return { findings: [{ about: 'conditional' }, ...remark], lines: [] };
  const lines = await loadPurchaseLines(trx, purchase.id);
  const answers = await inStockingUnits(context, purchase, lines, response);
  if (limit === 'within tolerance') {
    const tolerance = await toleranceOf(context, purchase.supplier);
    const limits = await loadCostLimits(
      trx,
      purchase.supplier,
      lines.map((line) => line.item),
    );
    const waits = answers.flatMap((answer) => {
      const line = lines.find((row) => String(row.line_no) === answer.id)!;
      const { line_no: lineNo, item, quantity, open, cost, expected_day: expectedDay } = line;
      const answered = { lineNo, item, quantity, open, cost, expectedDay, dropShip: line.warehouse === null };
      return beyondTolerance(answered, answer, tolerance, limits.items.get(item) ?? null, now.today);
    });
    if (waits.length > 0) return { findings: [...waits, ...remark], lines: [], held: true };
  }
  const before = await standingOfPromises(
    context,
    lines.map((line) => line.item),
  );
  const findings: Finding[] = [...remark];
  const refused = answers.length > 0 && answers.every((answer) => answer.answer === 'refused');
  const came = { supplier: purchase.supplier_name, purchase: purchase.number, message: response.number };
  const cause = { kind: 'answer.came' as const, facts: { ...came, said: refused ? ('refused' as const) : ('otherwise' as const) } };
  for (const answer of answers) {
    const line = (await loadPurchaseLines(trx, purchase.id)).find((row) => String(row.line_no) === answer.id)!;
    findings.push(...(await takeLine(context, purchase, line, answer, cause)));
  }
  const { state } = await trx.selectFrom('purchase_order').select('state').where('id', '=', purchase.id).executeTakeFirstOrThrow();
  if (state === 'sent') {
    await trx.updateTable('purchase_order').set({ state: 'acknowledged' }).where('id', '=', purchase.id).execute();
    await touchPurchase(trx, purchase.id);
  }
  await recordEvent(context, {
    kind: 'answer.came',
    facts: { ...came, said: refused ? 'refused' : findings.length > 0 ? 'otherwise' : 'as_ordered' },
    subjects: [
      { kind: 'purchase', key: purchase.id },
      { kind: 'supplier', key: purchase.supplier },
    ],
  });
  const hurt = await newlyHurt(context, before);
  return { findings: [...findings, ...hurt.findings], lines: hurt.lines };
}
