import type { WarehouseCode } from '@nockwright/core/ids';
import type { ItemFound, ItemRow } from '@nockwright/contract/items';
import { writtenForms } from '@nockwright/core/orders';
import { unitName } from '@nockwright/core/units';
import { sql } from 'kysely';
import { RECENT_ORDERS } from './recent-orders';
import { anyOf, correctSearch, escapeLike, searchWords, together, type Db } from '../database';

const MOST_FOUND = 12;
/** Shorter words are looked for at the beginning of words: there are no trigrams of them. */
const TRIGRAM = 3;

const COLUMNS = sql`i.code, i.description, i.item_group, i.also, i.unit, i.discontinued, i.step`;

/** Each word of a search, or the words it may stand for: one of them must be there. */
type Wanted = readonly (readonly string[])[];

interface FoundRow {
  readonly code: string;
  readonly description: string;
  readonly group: string;
  readonly unit: string;
  readonly step: string;
  readonly available: string;
  /** What the customer calls it. */
  readonly theirCode: string | null;
  readonly discontinued: boolean;
  readonly byGroup: boolean;
}

/** Words of items, for whom and where from. */
export interface ItemSearch {
  readonly search?: string;
  readonly customer?: number;
  readonly warehouse?: WarehouseCode;
}

/**
 * Items that have every word of the search somewhere in code, description, what they are also called, the customer's number
 * or group: a code that is typed out first, ours or the customer's,
 * then those that have every word themselves, not in the name of their group alone; of these what the customer buys, most often first. Where nothing has them all, misspelt words are taken for what was perhaps meant.
 */
export async function findItems(db: Db, today: string, { search, customer, warehouse }: ItemSearch): Promise<ItemFound[]> {
  const words = searchWords(search);
  const wanted = words.map(writtenForms);
  const where = { today, customer: customer ?? 0, warehouse };
  const rows = await matching(db, wanted, where);
  if (rows.length > 0 || words.length === 0) return withUnits(db, rows, null);
  const meant = await correctSearch(db, 'item', words);
  return meant ? withUnits(db, await matching(db, meant, where), meant) : [];
}

async function matching(
  db: Db,
  wanted: Wanted,
  { today, customer, warehouse }: { readonly today: string; readonly customer: number; readonly warehouse: WarehouseCode | undefined },
): Promise<FoundRow[]> {
  const typed = wanted.map((words) => words[0]!).join(' ');
  const short = typed !== '' && wanted.every(([word]) => word!.length < TRIGRAM);
  const { rows } = await sql<FoundRow>`
    with bought as (
      select l.item, count(*) as times from (
        select id from sales_order where customer_id = ${customer} and state = 'released' order by id desc limit ${RECENT_ORDERS}) o
      join order_line l on l.order_id = o.id group by l.item),
    theirs as (select item, code from customer_item where customer_id = ${customer}),
    found as (${
      short
        ? sql`${beginning(wanted)} union ${called(wanted)}`
        : // What has the words itself is there already: of thousands none is looked at twice.
          sql`select ${COLUMNS} from item i where ${having(wanted, '%')} union all ${called(wanted)} and not (${having(wanted, '%')})`
    })
    select code, description, item_group as "group", unit, discontinued, step, "theirCode", "byGroup",
      coalesce((select sum(on_hand + inbound - committed - expired_on_hand(item, warehouse, ${today}::date)) from stock
        where item = best.code ${warehouse === undefined ? sql`` : sql`and warehouse = ${warehouse}`}), 0) as available
    from (
      -- The first few of perhaps thousands, which are never sorted as a whole.
      select first.*, row_number() over () as place
      from (
        select i.*, called.code as "theirCode", not (${having(wanted, '%', KNOWN)}) as "byGroup"
        from found i left join bought b on b.item = i.code left join theirs called on called.item = i.code
        order by i.discontinued, lower(i.code) <> ${typed} and lower(called.code) is distinct from ${typed}, not (${having(wanted, '%', KNOWN)}), b.times desc nulls last, lower(i.code) not like ${`${escapeLike(typed)}%`}, i.code collate "C"
        limit ${MOST_FOUND}) first) best
    order by place`.execute(db);
  return rows;
}

/** What the customer calls so. */
function called(wanted: Wanted) {
  return sql`select ${COLUMNS} from item i join theirs called on called.item = i.code where (${having(wanted, '%', CALLED)})`;
}

/** What begins with so few letters, without looking at all that is sold: what is bought, codes, and words of descriptions. */
function beginning(wanted: Wanted) {
  const first = wanted[0]![0]!;
  return sql`
    select ${COLUMNS} from item i join bought b on b.item = i.code where ${having(wanted, '')}
    union
    (select ${COLUMNS} from item i where lower(i.code) like ${`${escapeLike(first)}%`} and ${having(wanted, '')} order by lower(i.code) using ~<~ limit ${2 * MOST_FOUND})
    union
    (select ${COLUMNS} from item i where ${having(wanted, '')} limit ${2 * MOST_FOUND})`;
}

/** What an item is called itself, without its group. */
const OWN = sql`lower(i.code || ' ' || replace(i.code, '-', '') || ' ' || i.description || ' ' || i.also)`;
/** The same with what the customer calls it. */
const KNOWN = sql`(${OWN} || ' ' || coalesce(lower(called.code), ''))`;
/** All words of an item with what the customer calls it. */
const CALLED = sql`(i.search || ' ' || lower(called.code))`;

/** `before`: what may stand before a word; nothing: it begins one. */
function having(wanted: Wanted, before: '%' | '', where = sql`i.search`) {
  const one = (word: string) => {
    const text = escapeLike(word);
    return before === '%' ? sql`${where} like ${`%${text}%`}` : sql`(${where} like ${`${text}%`} or ${where} like ${`% ${text}%`})`;
  };
  return sql.join([sql`true`, ...wanted.map((words) => sql`(${sql.join(words.map(one), sql` or `)})`)], sql` and `);
}

/** `meant`: the words that were taken for misspelt ones. */
async function withUnits(db: Db, rows: readonly FoundRow[], meant: Wanted | null): Promise<ItemFound[]> {
  const codes = rows.map((row) => row.code);
  const units = await db.selectFrom('item_unit').selectAll().where(anyOf('item', codes)).orderBy('numerator').execute();
  return rows.map(({ step, ...row }) => ({
    ...row,
    corrected: meant !== null,
    units: [
      { code: row.unit, name: unitName(row.unit), numerator: '1', denominator: '1', step },
      ...units
        .filter((unit) => unit.item === row.code)
        .map((unit) => ({
          code: unit.unit,
          name: unitName(unit.unit),
          numerator: String(unit.numerator),
          denominator: String(unit.denominator),
          step: unit.step,
        })),
    ],
  }));
}

/** Items that are shown at first. */
const FIRST = 60;

/** The first items by their code with their stock over all warehouses, and what waits for them; and how many there are. */
export async function listStock(
  db: Db,
  today: string,
  { search, most = FIRST }: { readonly search?: string; readonly most?: number },
): Promise<{ rows: ItemRow[]; count: number }> {
  const matches = sql.join(
    searchWords(search).map((word) => sql`and i.search like ${`%${escapeLike(word)}%`}`),
    sql` `,
  );
  return together(db, async (all) => {
    // Only what is shown is summed up.
    const [found, totals] = await Promise.all([
      sql<ItemRow>`
        select i.code, i.description, i.item_group as "group", i.unit, i.discontinued,
          coalesce(s.on_hand, 0) as "onHand", coalesce(s.committed, 0) as committed, coalesce(s.inbound, 0) as inbound,
          coalesce(s.on_hand + s.inbound - s.committed - s.expired, 0) as available, coalesce(w.waiting, 0) as waiting
        from (select * from item i where true ${matches} order by i.code limit ${most}) i
        left join lateral (select sum(on_hand) as on_hand, sum(committed) as committed, sum(inbound) as inbound,
          sum(case when i.tracks_expiry then expired_on_hand(item, warehouse, ${today}::date) else 0 end) as expired from stock where item = i.code) s on true
        left join lateral (select sum(quantity) as waiting from board_short where item = i.code and kind = 'waiting') w on true
        order by i.code`.execute(all),
      sql<{ count: number }>`select count(*) as count from item i where true ${matches}`.execute(all),
    ]);
    return { rows: found.rows, count: totals.rows[0]!.count };
  });
}
