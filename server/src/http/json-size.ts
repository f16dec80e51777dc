/** More than any request of ours has: what is beyond it was made to keep the server busy. */
const MOST_VALUES = 150_000;
const MOST_FIELDS = 60;
const MOST_DEEP = 20;

const [QUOTE, BACKSLASH, COMMA, OPEN_LIST, CLOSE_LIST, OPEN_OBJECT, CLOSE_OBJECT] = [34, 92, 44, 91, 93, 123, 125];

/**
 * What is too much about a JSON text, in words: too many values, too many fields of one object, too deep; null where it is
 * within bounds. It is found by its brackets and commas alone, before anything is built of it, and stops at the first that is
 * too much. A text that is no JSON is left to the parser.
 */
export function tooMuchJson(text: string): string | null {
  let values = 1;
  // Of each level that is open: how many commas it has, and whether it is an object.
  const fields: number[] = [];
  const isObject: boolean[] = [];
  for (let at = 0; at < text.length; at++) {
    const sign = text.charCodeAt(at);
    if (sign === QUOTE) {
      at = endOfString(text, at);
      if (at < 0) return null;
    } else if (sign === COMMA) {
      if (++values > MOST_VALUES) return `has more than ${MOST_VALUES} values`;
      const level = fields.length - 1;
      if (level >= 0 && isObject[level] && ++fields[level]! >= MOST_FIELDS) return `has an object with more than ${MOST_FIELDS} fields`;
    } else if (sign === OPEN_OBJECT || sign === OPEN_LIST) {
      if (fields.length === MOST_DEEP) return `is more than ${MOST_DEEP} levels deep`;
      if (++values > MOST_VALUES) return `has more than ${MOST_VALUES} values`;
      fields.push(0);
      isObject.push(sign === OPEN_OBJECT);
    } else if (sign === CLOSE_OBJECT || sign === CLOSE_LIST) {
      fields.pop();
      isObject.pop();
    }
  }
  return null;
}

/** Where a string ends that begins at a quote; -1 where it does not. */
function endOfString(text: string, start: number): number {
  for (let end = text.indexOf('"', start + 1); end >= 0; end = text.indexOf('"', end + 1)) {
    let backslashes = 0;
    while (text.charCodeAt(end - 1 - backslashes) === BACKSLASH) backslashes++;
    if (backslashes % 2 === 0) return end;
  }
  return -1;
}

/** Whether every text of a value is one that can be kept: without NUL, and without half of a surrogate pair. */
export function hasOnlyTexts(value: unknown): boolean {
  if (typeof value === 'string') return !value.includes('\u0000') && (value as unknown as { isWellFormed(): boolean }).isWellFormed();
  if (value === null || typeof value !== 'object') return true;
  return (Array.isArray(value) ? (value as unknown[]) : Object.values(value)).every(hasOnlyTexts);
}
