import type { ItemCode } from '@nockwright/core/ids';
import { singular, writtenForms } from '@nockwright/core/orders';
import { sql } from 'kysely';
import { anyOf, escapeLike, meantWords, isSomewhere, type Db } from '../database';
import { itemsByTheirNumbers } from '../customers';
import { RECENT_ORDERS } from './recent-orders';

/** An item that words may mean. */
export interface ItemReading {
  readonly code: string;
  readonly description: string;
  readonly unit: string;
  /** The units it is sold by, its stocking unit first. */
  readonly units: readonly string[];
  /** In what steps each of them is sold. */
  readonly steps: readonly string[];
  readonly bought: number;
  /** Words of the text that are its code, or what the customer calls it. */
  readonly named: readonly string[];
  /** The words that it has. */
  readonly has: readonly string[];
}

export interface WordReading {
  readonly items: readonly ItemReading[];
  /** Misspelt words, and what they were taken for. */
  readonly corrected: ReadonlyMap<string, readonly string[]>;
  /** Words that nothing sold has. */
  readonly strange: readonly string[];
}

const MOST_READINGS = 5;

/**
 * The items that words of a mail may mean: those that have most of them, in code, description or group; long words and
 * those with a digit count double. What is named by its code, ours or the customer's, comes first, then what they buy.
 */
export async function itemsByWords(db: Db, words: readonly string[], customer: number): Promise<WordReading> {
  const theirs = await itemsByTheirNumbers(db, customer, words);
  const exact = await db
    .selectFrom('item')
    .select('code')
    .where(anyOf('code', [...words.map((word) => word.toUpperCase())]))
    .where('discontinued', '=', false)
    .execute();
  const corrected = new Map<string, readonly string[]>();
  const strange: string[] = [];
  const wanted: { readonly word: string; readonly forms: readonly string[]; readonly called?: ItemCode | undefined }[] = [];
  for (const word of words) {
    const forms = await written(db, word);
    const called = theirs.get(word.toLowerCase());
    if (forms.length > 0 || called) wanted.push({ word, forms, called });
    else {
      const near = await meantWords(db, 'item', singular(word));
      if (near.length === 0) strange.push(word);
      else {
        corrected.set(word, near);
        wanted.push({ word, forms: near.map(singular) });
      }
    }
  }
  if (wanted.length === 0) return { items: [], corrected, strange };
  const has = wanted.map(
    ({ forms, called }) =>
      sql<boolean>`(${sql.join([...forms.map((form) => sql`i.search like ${`%${escapeLike(form)}%`}`), ...(called ? [sql`i.code = ${called}`] : [])], sql` or `)})`,
  );
  const points = wanted.map(({ word }, at) => sql`case when ${has[at]!} then ${/\d/.test(word) || word.length >= 5 ? 2 : 1}::int else 0 end`);
  const { rows } = await sql<{ code: ItemCode; description: string; unit: string; step: string; bought: number; has: boolean[] }>`
    with bought as (
      select l.item, count(*)::int as times from (
        select id from sales_order where customer_id = ${customer} and state = 'released' order by id desc limit ${RECENT_ORDERS}) o
      join order_line l on l.order_id = o.id group by l.item)
    select i.code, i.description, i.unit, i.step, coalesce(b.times, 0) as bought, array[${sql.join(has)}] as has
    from item i left join bought b on b.item = i.code
    where not i.discontinued and (${sql.join(has, sql` or `)})
    order by i.code = any(${[...exact.map((row) => row.code), ...theirs.values()]}::text[]) desc, ${sql.join(points, sql` + `)} desc, b.times desc nulls last, length(i.description), i.code
    limit ${MOST_READINGS}`.execute(db);
  const codes = rows.map((row) => row.code);
  const units = await db.selectFrom('item_unit').select(['item', 'unit', 'step']).where(anyOf('item', codes)).orderBy('numerator').execute();
  return {
    items: rows.map((row) => ({
      ...row,
      units: [row.unit, ...units.filter((unit) => unit.item === row.code).map((unit) => unit.unit)],
      steps: [row.step, ...units.filter((unit) => unit.item === row.code).map((unit) => unit.step)],
      named: words.filter((word) => word.toUpperCase() === row.code || theirs.get(word.toLowerCase()) === row.code),
      has: wanted.filter((_, at) => row.has[at]).map(({ word }) => word),
    })),
    corrected,
    strange,
  };
}

/** The forms of a word that something sold has. */
async function written(db: Db, word: string): Promise<string[]> {
  const forms = writtenForms(word).map(singular);
  const there = await Promise.all(forms.map((form) => isSomewhere(db, 'item', form)));
  return forms.filter((_, at) => there[at]);
}
