import type { IsoDay } from '../../calendar';
import { readTable } from '../../formats';
import { inSeveralWords, joinNumbers, splitNumbers } from './joined-numbers';
import { numberReadings } from './number-readings';
import type { OrderText, TextLine, TextRest } from './order-text';
import { takeQuantity } from './quantity';
import { clausesOf, taskOf } from './tasks';
import { readWish, takeDay } from './wanted-day';
import { isEmpty, piecesOf, sentencesOf, tokensOf } from './words';

const PO =
  /\b(?:p\.?\s?o\b\.?|purchase order|(?:(?:our|your|the)\s+)?(?:order|reference|ref)\b\.?)(?:\s*(?:no|number|nr|ref|reference)\b\.?)?(?:\s+is\b)?[\s:#=]*([a-z0-9][a-z0-9./_-]*)/gi;
const GREETING = /^(?:hi|hiya|hello|hey|dear|good (?:morning|afternoon|day|evening)|morning|afternoon|to whom)\b/i;
const CLOSING =
  /^(?:many thanks|thanks|thank you|thx|cheers|regards|kind regards|best(?: regards| wishes)?|all the best|yours|sincerely|with (?:kind )?regards|sent from|ta|--+$|__+$)/i;
const QUOTED = /^(?:>|from:|to:|cc:|subject:|date:|sent:|on .* wrote:)/i;
const BULLET = /^\s*(?:[-*•–·]|\(?\d{1,2}[.)])\s+/;
const COLUMNS = [
  { key: 'item', names: ['code', 'article', 'product', 'sku', 'item code', 'part'] },
  { key: 'description', names: ['name', 'text'] },
  { key: 'quantity', names: ['qty', 'amount', 'count', 'pieces'] },
  { key: 'unit', names: ['uom', 'unit of measure'] },
  { key: 'day', names: ['date', 'requested', 'delivery date', 'ship date'] },
] as const;

interface Found {
  poNumber: OrderText['poNumber'];
  wish: OrderText['wish'];
  readonly lines: TextLine[];
  readonly rest: TextRest[];
}

/**
 * Reads an order as it is written in a mail, said in a line or pasted from a spreadsheet: lines with quantity, unit and
 * day, the customer's order number, when it is wanted. Every word belongs to something: what is no line and no courtesy
 * is told as not understood. `numbers`: what the customer calls items, where that is several words.
 */
export function readOrderText(text: string, today: IsoDay, numbers: readonly string[] = []): OrderText {
  const known = inSeveralWords(numbers);
  return splitNumbers(readJoined(joinNumbers(text, known), today), known);
}

function readJoined(text: string, today: IsoDay): OrderText {
  const table = readListed(text, today);
  if (table) return table;
  const found: Found = { poNumber: null, wish: null, lines: [], rest: [] };
  const rows = text.replace(/\r/g, '').split('\n');
  const listed = rows.filter((row) => row.includes(';')).length > 1;
  let closed = false;
  rows.forEach((raw, at) => {
    const row = at + 1;
    let left = (listed ? raw.replaceAll(';', ' ') : raw).replace(/\s+/g, ' ').trim();
    if (left === '') return;
    const courtesy = (words: string) => found.rest.push({ row, words, kind: 'courtesy' });
    if (closed || QUOTED.test(left)) return void courtesy(left);
    if (CLOSING.test(left) && !/\d/.test(left)) {
      closed = true;
      return void courtesy(left);
    }
    const greeting = GREETING.test(left) ? /^[^,.!:-]*[,.!:-]*\s*/.exec(left)![0] : '';
    if (greeting !== '') courtesy(greeting.trim());
    left = left.slice(greeting.length).replace(BULLET, '');
    for (const sentence of sentencesOf(left)) readSentence(sentence, row, found, today);
  });
  return found;
}

/** A table whose first row names its columns; null where it is none. */
function readListed(text: string, today: IsoDay): OrderText | null {
  const table = readTable(text, COLUMNS);
  const has = (key: (typeof COLUMNS)[number]['key']) => table.columns.includes(key);
  if (!table.headed || !has('quantity') || (!has('item') && !has('description'))) return null;
  const lines = table.rows.map(({ line: row, cells }): TextLine => {
    const words = Object.values(cells).join(' ');
    const quantities = cells.quantity === undefined ? [] : numberReadings(cells.quantity.replace(/\s/g, ''));
    const { unit, left } = takeQuantity(tokensOf(`1 ${cells.unit ?? ''}`));
    const named = cells.item ?? cells.description ?? '';
    return {
      row,
      words,
      item: tokensOf(named).map((token) => token.word),
      quantity: quantities.length === 0 ? null : { value: quantities[0]!, words: cells.quantity! },
      quantities,
      behind: unit === null ? (left[0]?.word ?? null) : null,
      unit,
      day:
        cells.day === undefined
          ? null
          : (takeDay(tokensOf(`order by ${cells.day}`), today).said ?? { words: cells.day, days: [], why: `“${cells.day}” is no day`, asks: true }),
    };
  });
  return { poNumber: null, wish: null, lines: lines.filter((line) => line.item.length > 0), rest: [] };
}

function readSentence(sentence: string, row: number, found: Found, today: IsoDay) {
  for (const clause of clausesOf(sentence)) {
    if (taskOf(clause) === null) readClause(clause, row, found, today);
    else found.rest.push({ row, words: clause, kind: 'task' });
  }
}

function readClause(clause: string, row: number, found: Found, today: IsoDay) {
  let left = clause;
  const po = [...left.matchAll(PO)].find(([words, number]) => isPoNumber(words, number!));
  if (po && !found.poNumber) {
    found.poNumber = { value: po[1]!.replace(/[.]+$/, ''), words: po[0].trim() };
    left = left.replace(po[0], ' ').replace(/\s+/g, ' ').trim();
  }
  left = takeWish(left, found, today);
  const lines = readPieces(piecesOf(left), row, today);
  const asks = lines.some((line) => line.quantity !== null);
  const unknown = (words: string) => found.rest.push({ row, words, kind: 'unknown' });
  if (!asks && namesNothing(left)) {
    if (/[\p{L}\d]/u.test(left)) found.rest.push({ row, words: left, kind: CLOSING.test(left) || GREETING.test(left) || po ? 'courtesy' : 'unknown' });
    return;
  }
  for (const line of lines) {
    if (line.item.length > 0 && (line.quantity !== null || !asks)) found.lines.push(line);
    else if (/[\p{L}\d]/u.test(line.words)) unknown(line.words);
  }
}

/** A number with a digit; behind the bare word `order`, which may ask for so many, only what can be no quantity. */
function isPoNumber(words: string, number: string): boolean {
  if (!/\d/.test(number) || /^\d{1,2}$/.test(number)) return false;
  return !/^(?:the )?order\s+\d/i.test(words) || !/^\d{3,4}$/.test(number);
}

/** When the order is wanted, said in the sentence, at its end, or before a colon; gives what is left of it. */
function takeWish(sentence: string, found: Found, today: IsoDay): string {
  if (found.wish) return sentence;
  const parts = sentence.split(/,\s+/);
  const last = parts[parts.length - 1]!;
  const asks = (words: string) => takeQuantity(takeDay(tokensOf(words), today).left).quantity !== null;
  const [, before, behind] = /^([^:]+):\s+(.+)$/.exec(sentence) ?? [];
  const announced = before !== undefined && !asks(before) ? readWish(before, today) : null;
  if (announced) {
    found.wish = announced;
    return behind!;
  }
  if (asks(last)) return sentence;
  const wish = readWish(last, today);
  if (!wish || (parts.length === 1 && !sentence.includes(' '))) return sentence;
  found.wish = wish;
  return parts.slice(0, -1).join(', ');
}

/** Pieces as lines; a quantity that was parted from its item is put back. */
function readPieces(pieces: readonly string[], row: number, today: IsoDay): TextLine[] {
  const lines: TextLine[] = [];
  for (const words of pieces) {
    const line = readPiece(words, row, today);
    const before = lines[lines.length - 1];
    if (before && before.quantity === null && line.item.length === 0) lines[lines.length - 1] = readPiece(`${before.words} ${words}`, row, today);
    else lines.push(line);
  }
  return lines;
}

function readPiece(words: string, row: number, today: IsoDay): TextLine {
  const day = takeDay(tokensOf(words), today);
  const { quantity, readings, behind, unit, left } = takeQuantity(day.left);
  // A price beside it is not the customer's to make: it stays in the words of the line.
  const item = left.map((token) => token.word).filter((word, at) => !isEmpty(word) && word !== '@' && left[at - 1]?.text !== '@');
  return { row, words, item, quantity, quantities: readings, behind, unit, day: day.said };
}

/** Whether nothing in it could name an item: a sentence about something else. */
function namesNothing(sentence: string): boolean {
  const words = tokensOf(sentence).map((token) => token.word);
  return !words.some((word) => /\d/.test(word)) || words.every(isEmpty);
}
