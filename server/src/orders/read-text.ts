import type { TextRead } from '@nockwright/contract/orders';
import { readOrderText, type TextLine } from '@nockwright/core/orders';
import { unitName } from '@nockwright/core/units';
import type { Now } from '../clock';
import type { Db } from '../database';
import { itemsByWords, type ItemReading, type WordReading } from '../items';
import { loadOrder } from './load-order';

type Proposal = TextRead['lines'][number];

const MOST_READINGS = 4;

/** Reads a mail or a pasted list as lines of an order: what is sure, what is uncertain with its likely readings, and what was not understood. */
export async function readText(db: Db, now: Now, orderId: number, text: string): Promise<TextRead> {
  const order = await loadOrder(db, orderId);
  const { poNumber, wish, lines, rest } = readOrderText(text, now.today);
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
    wish: wish && { value: wish.value, words: wish.words, kind: wish.kind },
    lines: proposals,
    rest: [...rest, ...unknown].sort((a, b) => a.row - b.row),
  };
}

/** What is proposed for a line; null where its words mean nothing that is sold. */
function propose(line: TextLine, reading: WordReading): Proposal | null {
  const [best, second] = reading.items;
  const code = line.item.some((word) => word.toUpperCase() === best?.code);
  if (!best || (line.quantity === null && !code && best.has.length < Math.max(2, line.item.length / 2)))
    return line.quantity === null ? null : { ...partsOf(line), certainty: 'unknown', why: 'nothing that is sold has these words', readings: [] };
  const missing = line.item.filter((word) => !best.has.includes(word));
  const rivals = code ? [] : reading.items.filter((item) => item.has.length === best.has.length);
  const notes = [
    ...[...reading.corrected].filter(([word]) => best.has.includes(word)).map(([word, near]) => `“${word}” taken for ${near[0]}`),
    ...(missing.length > 0 && !code ? [`${best.code} does not have “${missing.join(' ')}”`] : []),
  ];
  const fault = unitFault(line, best);
  if (fault) notes.push(fault.why);
  const usual = rivals.length > 1 && best.bought > 0 && (second?.bought ?? 0) === 0;
  if (usual) notes.push('several are called so: this is the one they buy');
  else if (rivals.length > 1) notes.push('several are called so');
  if (line.quantity === null) notes.push('how many?');
  const certainty = decide({
    code,
    rivals: rivals.length,
    usual,
    missing: missing.length,
    of: line.item.length,
    corrected: reading.corrected.size,
    fault: fault !== null,
    quantity: line.quantity !== null,
  });
  // What has fewer of the words is offered only where nothing has them all.
  const offered = code ? [best] : rivals.length > 1 ? rivals : missing.length === 0 ? [best] : reading.items;
  const shown = offered.slice(0, MOST_READINGS);
  return { ...partsOf(line), certainty, why: notes.join('; '), readings: shown.map((item) => asReading(item, line)) };
}

function decide(facts: {
  code: boolean;
  rivals: number;
  usual: boolean;
  missing: number;
  of: number;
  corrected: number;
  fault: boolean;
  quantity: boolean;
}): Proposal['certainty'] {
  if (!facts.quantity || facts.fault) return 'choose';
  if (facts.code) return 'sure';
  if (facts.missing * 2 > facts.of) return 'choose';
  if (facts.rivals > 1) return facts.usual ? 'likely' : 'choose';
  return facts.corrected > 0 || facts.missing > 0 ? 'likely' : 'sure';
}

function partsOf(line: TextLine): Pick<Proposal, 'row' | 'words' | 'quantity' | 'unit' | 'day'> {
  return { row: line.row, words: line.words, quantity: line.quantity?.value ?? null, unit: line.unit?.value ?? null, day: line.day?.value ?? null };
}

/** Where the unit that was written is none the item is sold by: what could be meant instead. */
function unitFault(line: TextLine, item: ItemReading): { readonly why: string } | null {
  if (!line.unit || unitOf(line, item) === line.unit.value || isPiece(line.unit.value)) return null;
  return { why: `${item.code} is not sold by ${unitName(line.unit.value)}; it is sold by ${item.units.map((unit) => unitName(unit)).join(', ')}` };
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

function asReading(item: ItemReading, line: TextLine): Proposal['readings'][number] {
  return { item: item.code, description: item.description, unit: unitOf(line, item), units: [...item.units], usual: item.bought > 0 };
}
