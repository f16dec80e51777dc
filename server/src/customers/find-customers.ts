import type { CustomerFound } from '@nockwright/contract/customers';
import { sql } from 'kysely';
import { correctSearch, escapeLike, hasWord, searchWords, type Db } from '../database';

const MOST_FOUND = 12;

/**
 * Customers that have every word of the search in number, name, contact, phone, town or postcode; behind them those that have
 * it in their mail address, street, an address that goods go to, or a contact. Where nobody has them all, misspelt words are taken for
 * what was perhaps meant.
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
  const first = typed === '' ? [] : await read(db, wanted, typed, 'begins');
  if (first.length === MOST_FOUND) return first;
  const found = await read(db, wanted, typed, 'has');
  if (typed === '' || found.length === MOST_FOUND) return found;
  const more = await read(db, wanted, typed, 'has at a place');
  return [...found, ...more.filter((row) => found.every((known) => known.id !== row.id))].slice(0, MOST_FOUND);
}

async function read(db: Db, wanted: readonly (readonly string[])[], typed: string, how: 'begins' | 'has' | 'has at a place'): Promise<CustomerFound[]> {
  const start = `${escapeLike(typed)}%`;
  let query = db.selectFrom('customer').select(['id', 'number', 'prospect', 'name', 'contact', 'phone', 'town', 'postcode']);
  for (const words of wanted)
    query = query.where(({ or }) =>
      or(
        words.flatMap((word) => [
          hasWord('search', word),
          ...(how === 'has at a place'
            ? [
                hasWord('also', word),
                sql<boolean>`customer.id in (select customer_id from ship_to where ${hasWord('ship_to.search', word)})`,
                sql<boolean>`customer.id in (select customer_id from customer_contact where ${hasWord('customer_contact.search', word)})`,
              ]
            : []),
        ]),
      ),
    );
  if (how === 'begins') query = query.where(sql<boolean>`(lower(number) like ${start} or lower(name) like ${start})`);
  return query
    .orderBy(sql`case when lower(number) like ${start} then 0 when lower(name) like ${start} then 1 else 2 end`)
    .orderBy('name')
    .limit(MOST_FOUND)
    .execute();
}
