import type { OrderId } from '@nockwright/core/ids';
import type { TextRead } from '@nockwright/contract/orders';
import { readOrderText, type OrderText, type TextLine } from '@nockwright/core/orders';
import { isInSteps, unitName } from '@nockwright/core/units';
import type { Now } from '../clock';
import type { Db } from '../database';
import type { Task, Work } from '../work';
import { itemsByWords, type ItemReading, type WordReading } from '../items';
import { loadOrder } from './load-order';

type Proposal = TextRead['lines'][number];
type Reading = Proposal['readings'][number];

const MOST_READINGS = 4;

/** What a text says, before anything is looked up. */
export const readTextTask: Task<{ readonly text: string; readonly today: string; readonly numbers: readonly string[] }, OrderText> = {
  name: 'readText',
  run: ({ text, today, numbers }) => readOrderText(text, today, numbers),
};

/** Reads a mail or a pasted list as lines of an order: what is sure, what is uncertain with its likely readings, and what was not understood. */
export async function readText(db: Db, work: Work, now: Now, orderId: OrderId, text: string, user: number): Promise<TextRead> {
  const order = await loadOrder(db, orderId);
  const theirs = await db.selectFrom('customer_item').select('code').where('customer_id', '=', order.customer_id).where('code', 'like', '% %').execute();
  const numbers = theirs.map((row) => row.code);
  const { poNumber, wish, lines, rest } = await work.run(readTextTask, { text, today: now.today, numbers }, user);
  const proposals: Proposal[] = [];
  const unknown: TextRead['rest'][number][] = [];
  for (const line of lines) {
    const reading = await itemsByWords(db, line.item, order.customer_id);
    const proposal = propose(line, reading);
    // A sentence without a quantity that hardly names an item is none of ours.
    if (proposal === null) unknown.push({ row: line.row, words: line.words, kind: 'unknown' });
    else proposals.push(proposal);
  }
  return {
    poNumber,
    wish: wish && { days: wish.days, words: wish.words, kind: wish.kind, why: wish.why, asks: wish.asks },
    lines: proposals,
    rest: [...rest, ...unknown].sort((a, b) => a.row - b.row),
  };
}

/** What is proposed for a line; null where its words mean nothing that is sold. */
function propose(line: TextLine, reading: WordReading): Proposal | null {
  const [best, second] = reading.items;
  const code = (best?.named.length ?? 0) > 0;
  if (!best || (line.quantity === null && !code && best.has.length < Math.max(2, line.item.length / 2)))
    return line.quantity === null ? null : { ...partsOf(line), certainty: 'unknown', why: 'nothing that is sold has these words', readings: [] };
  const missing = line.item.filter((word) => !best.has.includes(word) && !best.named.includes(word));
  const rivals = code ? [] : reading.items.filter((item) => item.has.length === best.has.length);
  const usual = rivals.length > 1 && best.bought > 0 && (second?.bought ?? 0) === 0;
  const doubts = doubtsOf(line, best, missing);
  const spelt = [...reading.corrected].filter(([word]) => best.has.includes(word)).map(([word, near]) => `“${word}” taken for ${near[0]}`);
  const why = [
    ...spelt,
    ...(missing.length > 0 && !code ? [`${best.code} does not have “${missing.join(' ')}”`] : []),
    ...doubts.why,
    ...(rivals.length > 1 ? [usual ? 'several are called so: this is the one they buy' : 'several are called so'] : []),
    ...(line.quantity === null ? ['how many?'] : []),
  ];
  const certainty = decide({
    code,
    rivals: rivals.length,
    usual,
    missing: missing.length,
    of: line.item.length,
    corrected: reading.corrected.size,
    doubt: doubts.asks,
    note: doubts.why.length > 0,
    quantity: line.quantity !== null,
  });
  // What has fewer of the words is offered only where nothing has them all.
  const offered = code ? [best] : rivals.length > 1 ? rivals : missing.length === 0 ? [best] : reading.items;
  const readings = readingsOf(offered, line, doubts.unit);
  return { ...partsOf(line, readings[0]), certainty, why: why.join('; '), readings };
}

function decide(facts: {
  code: boolean;
  rivals: number;
  usual: boolean;
  missing: number;
  of: number;
  corrected: number;
  /** A unit, a number or a day has more than one reading, or none. */
  doubt: boolean;
  /** Something is to be known of it. */
  note: boolean;
  quantity: boolean;
}): Proposal['certainty'] {
  if (!facts.quantity || facts.doubt) return 'choose';
  if (facts.code) return facts.note ? 'likely' : 'sure';
  if (facts.missing * 2 > facts.of) return 'choose';
  if (facts.rivals > 1) return facts.usual ? 'likely' : 'choose';
  return facts.corrected > 0 || facts.missing > 0 || facts.note ? 'likely' : 'sure';
}

function partsOf(line: TextLine, first?: Reading): Pick<Proposal, 'row' | 'words' | 'quantity' | 'unit' | 'day'> {
  return {
    row: line.row,
    words: line.words,
    quantity: first ? first.quantity : (line.quantity?.value ?? null),
    unit: line.unit?.value ?? null,
    day: line.day?.days.length === 1 ? line.day.days[0]! : null,
  };
}

/** What of a line has more than one reading, in words, and whether a person has to decide. `unit`: which one is meant is not known. */
function doubtsOf(
  line: TextLine,
  item: ItemReading,
  missing: readonly string[],
): { readonly why: readonly string[]; readonly asks: boolean; readonly unit: boolean } {
  const strange =
    line.behind !== null && missing.includes(line.behind) ? `“${line.behind}” is no unit that is known: ${item.code} is sold by ${unitsInWords(item)}` : null;
  const unsold = !line.unit || unitOf(line, item) === line.unit.value || isPiece(line.unit.value) ? null : notSoldBy(line.unit.value, item);
  const fitting = fittingQuantities(line, item, unitOf(line, item));
  const number =
    line.quantities.length > 1
      ? `“${line.quantity!.words}” is ${line.quantities.join(' or ')}`
      : line.quantity !== null && fitting.length === 0
        ? `${line.quantity.value} ${unitName(unitOf(line, item), line.quantity.value)} cannot be sold: only whole numbers`
        : null;
  const day = line.day?.why ? line.day.why : null;
  return {
    why: [strange, unsold, number, day].filter((words) => words !== null),
    asks: strange !== null || unsold !== null || number !== null || (line.day?.asks ?? false),
    unit: strange !== null || unsold !== null,
  };
}

function notSoldBy(unit: string, item: ItemReading): string {
  return `${item.code} is not sold by ${unitName(unit)}; it is sold by ${unitsInWords(item)}`;
}

function unitsInWords(item: ItemReading): string {
  return item.units.map((unit) => unitName(unit)).join(', ');
}

/** The readings of a number that can be sold of a unit. */
function fittingQuantities(line: TextLine, item: ItemReading, unit: string): readonly string[] {
  return line.quantities.filter((quantity) => isInSteps(quantity, item.steps[item.units.indexOf(unit)] ?? '1'));
}

/** Every item with every unit, number and day that may be meant, the likeliest first, as many as fit on the keys. */
function readingsOf(items: readonly ItemReading[], line: TextLine, anyUnit: boolean): Reading[] {
  const days: readonly (string | null)[] = line.day && line.day.days.length > 0 ? line.day.days : [null];
  const all = items.flatMap((item) => {
    const likely = unitOf(line, item);
    const units = anyUnit ? [likely, ...item.units.filter((unit) => unit !== likely)] : [likely];
    return units.flatMap((unit) => {
      const fitting = fittingQuantities(line, item, unit);
      const quantities: readonly (string | null)[] = fitting.length > 0 ? fitting : [null];
      return quantities.flatMap((quantity) => days.map((day) => asReading(item, unit, quantity, day)));
    });
  });
  return all.slice(0, MOST_READINGS);
}

/** The unit a line would be ordered in: as written where the item is sold so, the only larger one where another container is named, else the stocking unit. */
function unitOf(line: TextLine, item: ItemReading): string {
  if (!line.unit || isPiece(line.unit.value)) return item.unit;
  if (item.units.includes(line.unit.value)) return line.unit.value;
  return item.units[1] ?? item.unit;
}

/** Each and piece are the same in a mail. */
function isPiece(unit: string): boolean {
  return unit === 'EA' || unit === 'H87';
}

function asReading(item: ItemReading, unit: string, quantity: string | null, day: string | null): Reading {
  return { item: item.code, description: item.description, quantity, unit, day, units: [...item.units], usual: item.bought > 0 };
}
