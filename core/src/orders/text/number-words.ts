const ONES = 'one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen seventeen eighteen nineteen'.split(' ');
const TENS = 'twenty thirty forty fifty sixty seventy eighty ninety'.split(' ');
const VALUES = new Map([...ONES.map((word, at) => [word, at + 1] as const), ...TENS.map((word, at) => [word, 10 * at + 20] as const)]);

const SMALL = `(?:(?:${TENS.join('|')})(?:[\\s-]+(?:${ONES.slice(0, 9).join('|')}))?|${ONES.slice().reverse().join('|')})`;
const WHOLE = new RegExp(`\\b(?:(?:a|${ONES.join('|')})\\s+hundred(?:\\s+(?:and\\s+)?${SMALL})?|${SMALL})\\b`, 'gi');

/** A number in words, as a pattern: what one begins with. */
export const NUMBER_WORD = `(?:${[...VALUES.keys()].join('|')})`;

/** `forty eight` and `two hundred and fifty` as one word each: `forty-eight`, `two-hundred-fifty`. */
export function joinNumberWords(text: string): string {
  return text.replace(/\b(\d{1,2})\s+hundred\b/gi, '$100').replace(WHOLE, (words) => words.replace(/\s+and\s+/gi, ' ').replace(/\s+/g, '-'));
}

/** What a number in words is, joined as above; null where it is none. */
export function readNumberWords(word: string): number | null {
  let total = 0;
  for (const part of word.split('-')) {
    const value = VALUES.get(part);
    if (part === 'hundred') total *= 100;
    else if (part === 'a' && word !== 'a') total = 1;
    else if (value === undefined) return null;
    else total += value;
  }
  return total === 0 ? null : total;
}
