import type { OrderText } from './order-text';

/** Stands between the parts of a number that is written in several words, while a text is read. */
const JOIN = '_';

const partsOf = (number: string) => number.trim().split(/\s+/);
const written = (text: string) => text.replace(/[.*+?^${}()|[\]\\]/g, '\\$&');

/** The item numbers of a customer that are several words, the longest first: only they can be taken apart. */
export function inSeveralWords(numbers: readonly string[]): readonly string[] {
  return numbers.filter((number) => partsOf(number).length > 1).sort((a, b) => b.length - a.length);
}

/** A text in which each of these numbers is one word, however its parts are spaced. */
export function joinNumbers(text: string, numbers: readonly string[]): string {
  return numbers.reduce((said, number) => {
    const pattern = new RegExp(`(?<![\\p{L}\\d_])${partsOf(number).map(written).join('[^\\S\\n]+')}(?![\\p{L}\\d_])`, 'giu');
    return said.replace(pattern, (found) => partsOf(found).join(JOIN));
  }, text);
}

/** What was read of such a text, with the numbers as they were written. */
export function splitNumbers(read: OrderText, numbers: readonly string[]): OrderText {
  if (numbers.length === 0) return read;
  const known = new Map(numbers.map((number) => [partsOf(number.toLowerCase()).join(JOIN), number]));
  const joined = new RegExp([...known.keys()].map(written).join('|'), 'giu');
  const split = (words: string) => words.replace(joined, (found) => found.replaceAll(JOIN, ' '));
  return {
    ...read,
    lines: read.lines.map((line) => ({ ...line, words: split(line.words), item: line.item.map((word) => known.get(word)?.toLowerCase() ?? word) })),
    rest: read.rest.map((row) => ({ ...row, words: split(row.words) })),
  };
}
