import type { CustomerFound } from '@nockwright/contract/customers';
import { sql } from 'kysely';
import { correctSearch, escapeLike, hasWord, searchWords, type Db } from '../database';

const MOST_FOUND = 12;

/**
 * Customers that have every word of the search in number, name, contact, phone, town or postcode. Where nobody
 * has them all, misspelt words are taken for what was perhaps meant.
 */
export async function findCustomers(db: Db, search?: string): Promise<CustomerFound[]> {
  const words = searchWords(search);
  const found = await matching(
    db,
    words.map((word) => [word]),
  );
  if (found.length > 0 || words.length === 0) return found;
  const meant = await correctSearch(db, 'customer', words);
  return meant ? matching(db, meant) : [];
}

/** Each word, or one of those it may stand for, must be there; whose number or name begins with what was typed stands first. */
async function matching(db: Db, wanted: readonly (readonly string[])[]): Promise<CustomerFound[]> {
  const typed = wanted.map((words) => words[0]!).join(' ');
  // Where enough begin so, the many that have it elsewhere need not be looked at.
  const first = typed === '' ? [] : await read(db, wanted, typed, true);
  return first.length === MOST_FOUND ? first : read(db, wanted, typed, false);
}

async function read(db: Db, wanted: readonly (readonly string[])[], typed: string, begins: boolean): Promise<CustomerFound[]> {
  const start = `${escapeLike(typed)}%`;
  let query = db.selectFrom('customer').select(['id', 'number', 'prospect', 'name', 'contact', 'phone', 'town', 'postcode']);
  for (const words of wanted) query = query.where(({ or }) => or(words.map((word) => hasWord('search', word))));
  if (begins) query = query.where(sql<boolean>`(lower(number) like ${start} or lower(name) like ${start})`);
  return query
    .orderBy(sql`case when lower(number) like ${start} then 0 when lower(name) like ${start} then 1 else 2 end`)
    .orderBy('name')
    .limit(MOST_FOUND)
    .execute();
}
