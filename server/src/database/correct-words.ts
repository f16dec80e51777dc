import { sql } from 'kysely';
import type { Db } from './connect';
import { escapeLike } from './like';

const LEAST_LETTERS = 3;
const MOST_MEANT = 4;

/**
 * Words that were perhaps meant by a misspelt one, or by as much of it as is typed: one letter wrong, left out, too many
 * or two in the wrong sequence; in words of six letters and more two, where the first letter is right (common practice: it
 * seldom is what is misspelt). The nearest first; none where nothing is near.
 */
export async function meantWords(db: Db, kind: 'item' | 'customer', word: string): Promise<readonly string[]> {
  if (word.length < LEAST_LETTERS || !/^\p{L}+$/u.test(word)) return [];
  const far = word.length >= 6 ? 2 : 1;
  // Compared with the beginnings of as many letters, one more and one less; letters that changed places count as one.
  const { rows } = await sql<{ word: string }>`
    select word from (
      select word, min(case
        when length(part) = length(${word}) and levenshtein(part, ${word}) = 2
          and array(select unnest(string_to_array(part, null)) order by 1) = array(select unnest(string_to_array(${word}, null)) order by 1) then 1
        else levenshtein(part, ${word}) end) as distance
      from search_word, lateral (select distinct left(word, length(${word}) + more) as part from generate_series(-1, 1) more) parts
      where kind = ${kind} and length(word) >= length(${word}) - 1 and abs(length(part) - length(${word})) <= 1
        and levenshtein_less_equal(part, ${word}, ${far + 1}) <= ${far + 1}
      group by word) near
    where distance <= 1 or (distance <= ${far} and left(word, 1) = left(${word}, 1))
    order by distance, length(word), word
    limit ${MOST_MEANT}`.execute(db);
  return rows.map((row) => row.word);
}

/**
 * What each word of a search may stand for: itself where something has it, else the words that were perhaps meant. Null
 * where nothing can be made of one of them, or where nothing is misspelt.
 */
export async function correctSearch(db: Db, kind: 'item' | 'customer', words: readonly string[]): Promise<readonly (readonly string[])[] | null> {
  const meant: (readonly string[])[] = [];
  for (const word of words) meant.push((await isSomewhere(db, kind, word)) ? [word] : await meantWords(db, kind, word));
  return meant.some((near) => near.length === 0) || meant.every((near, at) => near[0] === words[at]) ? null : meant;
}

/** Whether anything of a kind has the word, or a part of it. */
export async function isSomewhere(db: Db, kind: 'item' | 'customer', word: string): Promise<boolean> {
  const found = await db
    .selectFrom(kind)
    .select('search')
    .where('search', 'like', `%${escapeLike(word)}%`)
    .limit(1)
    .executeTakeFirst();
  return found !== undefined;
}
