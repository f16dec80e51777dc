import { sql, type RawBuilder } from 'kysely';

/** `text` as it stands in a LIKE pattern: its wildcards taken literally. */
export function escapeLike(text: string): string {
  return text.replace(/[\\%_]/g, (character) => `\\${character}`);
}

/** The lower-cased words of a search, each to be found somewhere. */
export function searchWords(search: string | undefined): string[] {
  return (search ?? '').toLowerCase().split(/\s+/).filter(Boolean).slice(0, 8);
}

/** Letters a word needs to be looked for anywhere: an index of trigrams has nothing for fewer. */
const ANYWHERE = 3;

/** Whether a searched text has a word: anywhere in it, or where the word is that short, where a word of the text begins. */
export function hasWord(column: string, word: string): RawBuilder<boolean> {
  const text = escapeLike(word);
  const by = sql.ref(column);
  return word.length < ANYWHERE ? sql<boolean>`(${by} like ${`${text}%`} or ${by} like ${`% ${text}%`})` : sql<boolean>`${by} like ${`%${text}%`}`;
}
