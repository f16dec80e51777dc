import { joinNumberWords, NUMBER_WORD } from './number-words';

/** A word of a text as it stands there, and in lower case without punctuation around it. */
export interface Token {
  readonly text: string;
  readonly word: string;
}

/** Words that say nothing of what is ordered. */
const EMPTY = new Set(
  'i we us our you your can could would will please send me need needs want like to order ordered get have also again another more same some of the this that these those for with as and or in on at by is are be it them then x qty quantity pls plus usual usually each-of just ones lot lots last time per from do did not only if so possible thanks yes make instead add'.split(
    ' ',
  ),
);

export function isEmpty(word: string): boolean {
  return EMPTY.has(word);
}

export function tokensOf(words: string): Token[] {
  return joinNumberWords(words)
    .replace(/\bhalf a dozen\b/gi, '6 each')
    .replace(/(\d)\s*(?:×|x)(?=\s|$)/gi, '$1 x')
    .replace(/(^|\s)x\s*(\d+)\b/gi, '$1x $2')
    .split(/\s+/)
    .map((text) => ({ text, word: text === '@' ? text : text.toLowerCase().replace(/^[^\p{L}\d+]+|[^\p{L}\d]+$/gu, '') }))
    .filter((token) => token.word !== '');
}

export function textOf(tokens: readonly Token[]): string {
  return tokens.map((token) => token.text).join(' ');
}

/** `trays` → `tray`. */
export function singular(word: string): string {
  return word.length > 3 && word.endsWith('s') && !word.endsWith('ss') ? word.slice(0, -1) : word;
}

/** The sentences of a row; a point behind `no` or `ref` ends none. */
export function sentencesOf(row: string): string[] {
  return row
    .split(/(?<=[.!?])(?<!\b(?:no|nr|ref|approx|qty|pcs)\.)\s+(?=[A-Z])|;\s+/i)
    .map((sentence) => sentence.trim())
    .filter(Boolean);
}

const NUMBER_AHEAD = `(?:\\d|(?:an?|half a|${NUMBER_WORD})\\b[\\s-])`;
const PARTING = new RegExp(
  `(?<!\\bhundred\\s*)\\s*(?:,(?=\\s)|\\band\\b|\\bplus\\b|\\s[&+](?=\\s)|\\balso\\b)\\s*(?=(?:(?:and|also|please|another|add|then|some|a further)\\s+)*${NUMBER_AHEAD})`,
  'i',
);

/** Several things asked for in one sentence: parted at commas where each part has a number, else where a number follows. */
export function piecesOf(sentence: string): string[] {
  const parts = sentence.split(/,\s+/);
  const pieces = parts.length > 1 && parts.every((part) => /(?:^|\s)\d/.test(part)) ? parts : [sentence];
  return pieces
    .flatMap((piece) => piece.split(PARTING))
    .map((piece) => piece.trim())
    .filter(Boolean);
}

/** How descriptions may have a word: as it is, or a measure apart from its unit (`63mm`: `63 mm`). */
export function writtenForms(word: string): readonly string[] {
  const measure = /^(\d+(?:[.,]\d+)?)(mm|cm|m|kg|g|ml|cl|l)$/.exec(word);
  return measure ? [word, `${measure[1]} ${measure[2]}`] : [word];
}
