import { readScan } from '../scans';

export interface SerialFault {
  readonly text: string;
  readonly message: string;
}

export type SerialsResult = { readonly ok: true; readonly serials: readonly string[] } | { readonly ok: false; readonly faults: readonly SerialFault[] };

/** What AI (21) may hold: up to 20 characters of the set that GS1 labels use. Source: GS1 General Specifications, AI (21) and table of character set 82. */
const SERIAL = /^[!"%&'()*+,\-./0-9:;<=>?A-Z_a-z]{1,20}$/;
const RANGE = /^(\S+?)\s*(?:\.\.\.?|…)\s*(\S+)$/;
/** The most that one range may hold; more is a slip of the finger. */
const MOST = 2_000;
/** The most that is read at once: whoever names more means no good. */
const MOST_AT_ONCE = 10_000;

/**
 * Serial numbers as they are scanned or typed: by line, comma or semicolon, each a number, a GS1 label with AI (21), or a range
 * `EX-0101..EX-0120` whose ends differ in their last digits only. In their sequence, each once. What cannot be read is a fault
 * that names it.
 */
export function readSerials(text: string, today: string): SerialsResult {
  const faults: SerialFault[] = [];
  const serials = new Set<string>();
  const words = text
    .split(/[\n,;]+/)
    .map((word) => word.trim())
    .filter((word) => word !== '');
  for (const word of words) {
    if (serials.size > MOST_AT_ONCE) return { ok: false, faults: [{ text: word, message: `more than ${MOST_AT_ONCE} serial numbers: enter them in parts` }] };
    const read = readWord(word, today);
    if (typeof read === 'string') faults.push({ text: word, message: read });
    else
      for (const serial of read) {
        if (serials.has(serial)) faults.push({ text: word, message: `serial number ${serial} stands twice` });
        serials.add(serial);
      }
  }
  return faults.length > 0 ? { ok: false, faults } : { ok: true, serials: [...serials] };
}

function readWord(word: string, today: string): readonly string[] | string {
  const range = RANGE.exec(word);
  if (range) return readRange(range[1]!, range[2]!);
  const read = readScan(word, today);
  if (!read.ok) return `${word} cannot be read: ${read.fault}`;
  const serial = read.scan.serial ?? read.scan.plain ?? (isLabel(word) ? undefined : word);
  if (serial === undefined) return `the label ${word} has no serial number (21)`;
  return SERIAL.test(serial) ? [serial] : `${serial} is no serial number: expected up to 20 letters, digits and signs`;
}

/** A bare number of 8 or 12 to 14 digits may be a serial number as well as an item's. */
function isLabel(word: string): boolean {
  return !/^\d+$/.test(word) || word.length > 20;
}

function readRange(first: string, last: string): readonly string[] | string {
  const [from, to] = [splitEnd(first), splitEnd(last)];
  if (!from || !to || from.stem !== to.stem || from.digits.length !== to.digits.length)
    return `${first}..${last} is no range: both ends need the same beginning, and as many digits at their end`;
  const [low, high] = [BigInt(from.digits), BigInt(to.digits)];
  if (high < low) return `${first}..${last} is no range: it ends before it begins`;
  if (high - low >= BigInt(MOST)) return `${first}..${last} holds ${high - low + 1n} numbers: expected ${MOST} at most`;
  const serials = Array.from({ length: Number(high - low) + 1 }, (_, at) => `${from.stem}${String(low + BigInt(at)).padStart(from.digits.length, '0')}`);
  const wrong = [first, last].find((end) => !SERIAL.test(end));
  return wrong === undefined ? serials : `${wrong} is no serial number: expected up to 20 letters, digits and signs`;
}

function splitEnd(serial: string): { readonly stem: string; readonly digits: string } | null {
  const match = /^(.*?)(\d+)$/.exec(serial);
  return match && { stem: match[1]!, digits: match[2]! };
}
