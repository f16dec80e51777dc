import type { Double } from '@nockwright/contract/customers';
import { sql } from 'kysely';
import type { Db } from '../database';

const MOST_DOUBLES = 5;
/** Trigrams two names share, of all they have: `Wether Hill Honey` and `Weather Hill Honey Coop` have 0.6. */
const ALIKE_NAME = 0.45;
const ALIKE_AT_POSTCODE = 0.25;

interface Wish {
  readonly name?: string;
  readonly phone?: string;
  readonly email?: string;
  readonly postcode?: string;
}

/** Customers like one that is to be made, the most alike first: the same caller entered twice has two histories and two limits. */
export async function findDoubles(db: Db, { name = '', phone = '', email = '', postcode = '' }: Wish): Promise<Double[]> {
  const digits = phone.replace(/\D/g, '');
  const place = postcode.replace(/\s/g, '').toLowerCase();
  const { rows } = await sql<Double['customer'] & { alikeName: number; samePhone: boolean; sameMail: boolean; samePlace: boolean }>`
    select id, number, prospect, name, contact, phone, town, postcode,
      similarity(lower(name), ${name.toLowerCase()}) as "alikeName",
      ${digits} <> '' and regexp_replace(phone, '\\D', '', 'g') = ${digits} as "samePhone",
      ${email} <> '' and lower(email) = ${email.toLowerCase()} as "sameMail",
      ${place} <> '' and replace(lower(postcode), ' ', '') = ${place} as "samePlace"
    from customer
    where (${name} <> '' and lower(name) % ${name.toLowerCase()})
      or (${digits} <> '' and search like ${`%${digits}%`})
      or (${email} <> '' and lower(email) = ${email.toLowerCase()})
      or (${place} <> '' and replace(lower(postcode), ' ', '') = ${place})
    order by similarity(lower(name), ${name.toLowerCase()}) desc, id
    limit 50`.execute(db);
  const doubles = rows.map(({ alikeName, samePhone, sameMail, samePlace, ...customer }) => ({
    customer,
    weight: alikeName + (samePhone ? 1 : 0) + (sameMail ? 1 : 0),
    alike: [
      ...(alikeName >= ALIKE_NAME || (samePlace && alikeName >= ALIKE_AT_POSTCODE) ? ['name'] : []),
      ...(samePhone ? ['phone'] : []),
      ...(sameMail ? ['mail'] : []),
    ],
  }));
  return doubles
    .filter((row) => row.alike.length > 0)
    .sort((a, b) => b.weight - a.weight)
    .slice(0, MOST_DOUBLES)
    .map(({ customer, alike }) => ({ customer, alike }));
}
