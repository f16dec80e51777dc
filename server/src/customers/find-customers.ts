import type { CustomerFound } from '@nockwright/contract/customers';
import { sql } from 'kysely';
import { correctSearch, escapeLike, searchWords, type Db } from '../database';

const MOST_FOUND = 12;

/**
 * Customers that have every word of the search somewhere in number, name, contact, phone, town or postcode. Where nobody
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
  let query = db.selectFrom('customer').select(['id', 'number', 'prospect', 'name', 'contact', 'phone', 'town', 'postcode']);
  for (const words of wanted) query = query.where(({ or, eb }) => or(words.map((word) => eb('search', 'like', `%${escapeLike(word)}%`))));
  const start = `${escapeLike(wanted.map((words) => words[0]!).join(' '))}%`;
  return query
    .orderBy(sql`case when lower(number) like ${start} then 0 when lower(name) like ${start} then 1 else 2 end`)
    .orderBy('name')
    .limit(MOST_FOUND)
    .execute();
}
