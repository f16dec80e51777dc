import type { ItemCode } from '@nockwright/core/ids';
import type { ContractLineView, ContractRow, ContractView } from '@nockwright/contract/pricing';
import { daysBetween, shortDay } from '@nockwright/core/calendar';
import { compareDecimal, divide, marginPercent, times } from '@nockwright/core/money';
import { bestBreak, offerPrice, type ContractTerms, type PriceBreak } from '@nockwright/core/pricing';
import type { pricingRoutes } from '@nockwright/contract/pricing';
import type { QueryOf } from '@nockwright/contract/shape';
import { sql } from 'kysely';
import type { Now } from '../clock';
import { anyOf, escapeLike, searchWords, type Db } from '../database';
import { notFound } from '../http/refusal';

type State = ContractRow['state'];

/** Contracts that have every word of the search in number, name or a customer's; those in force that end first stand first. */
export async function listContracts(
  db: Db,
  now: Now,
  { search, customer, state = 'all' }: QueryOf<typeof pricingRoutes.listContracts>,
): Promise<ContractRow[]> {
  const matches = searchWords(search).map(
    (word) => sql`and lower(c.number || ' ' || c.name || ' ' || coalesce(b.customers, '')) like ${`%${escapeLike(word)}%`}`,
  );
  const { rows } = await sql<Omit<ContractRow, 'state' | 'endsIn'>>`
    select c.id, c.number, c.name, coalesce(b.customers, '') as customers, c.first_day as "firstDay", c.last_day as "lastDay",
      coalesce(l.lines, 0)::int as lines, trim_scale(round(l.used, 1))::text as used
    from contract c
    left join lateral (
      select string_agg(distinct customer.name, ', ') as customers
      from contract_customer join customer on customer.id = customer_id where contract_id = c.id) b on true
    left join lateral (select count(*) as lines, max(used * 100 / most) as used from contract_line where contract_id = c.id) l on true
    where true ${customer === undefined ? sql`` : sql`and c.id in (select contract_id from contract_customer where customer_id = ${customer})`} ${sql.join(matches, sql` `)}
    order by c.last_day < ${now.today}, c.last_day, c.number
    limit 1000`.execute(db);
  const views = rows.map((row) => ({ ...row, state: stateOf(row, now.today), endsIn: endsIn(row, now.today) }));
  return state === 'all' ? views : views.filter((row) => row.state === state);
}

function stateOf({ firstDay, lastDay }: Pick<ContractRow, 'firstDay' | 'lastDay'>, today: string): State {
  return today < firstDay ? 'coming' : today > lastDay ? 'ended' : 'in_force';
}

function endsIn(row: Pick<ContractRow, 'firstDay' | 'lastDay'>, today: string): number | null {
  return stateOf(row, today) === 'in_force' ? daysBetween(today, row.lastDay) : null;
}

/** A contract with its buyers and lines, what overlaps, and what it did to margin. */
export async function readContract(db: Db, now: Now, id: number): Promise<ContractView> {
  const row = await db.selectFrom('contract').selectAll().where('id', '=', id).executeTakeFirst();
  if (!row) throw notFound(`contract ${id}`);
  const buyers = await db
    .selectFrom('contract_customer')
    .innerJoin('customer', 'customer.id', 'contract_customer.customer_id')
    .leftJoin('ship_to', 'ship_to.id', 'contract_customer.ship_to_id')
    .select(['customer.id as customer', 'customer.number', 'customer.name', 'ship_to.id as ship_to', 'ship_to.street', 'ship_to.town'])
    .where('contract_id', '=', id)
    .orderBy('customer.name')
    .orderBy('ship_to.id')
    .execute();
  const places = await db
    .selectFrom('ship_to')
    .select(['id', 'customer_id', 'street', 'town'])
    .where(
      anyOf(
        'customer_id',
        buyers.map((buyer) => buyer.customer),
      ),
    )
    .orderBy('id')
    .execute();
  const days = { firstDay: row.first_day, lastDay: row.last_day };
  return {
    id,
    number: row.number,
    name: row.name,
    ...days,
    state: stateOf(days, now.today),
    note: row.note,
    version: row.version,
    buyers: buyers.map(({ customer, number, name, ship_to, street, town }) => ({
      customer,
      number,
      name,
      shipTo: ship_to === null ? null : { id: ship_to, name: `${street}, ${town}` },
      places: places.filter((place) => place.customer_id === customer).map((place) => ({ id: place.id, name: `${place.street}, ${place.town}` })),
    })),
    lines: await readLines(db, now, id),
    sold: await readSold(db, id),
  };
}

interface LineRow {
  readonly id: number;
  readonly line_no: number;
  readonly item: ItemCode | null;
  readonly item_group: string | null;
  readonly description: string | null;
  readonly kind: 'fixed' | 'off_list' | 'cost_plus';
  readonly unit: string | null;
  readonly stock_unit: string | null;
  readonly price: string | null;
  readonly percent: string | null;
  readonly minimum: string | null;
  readonly most: string | null;
  readonly used: string;
  readonly list_price: string | null;
  readonly cost: string | null;
  readonly numerator: number;
  readonly denominator: number;
}

async function readLines(db: Db, now: Now, contract: number): Promise<ContractLineView[]> {
  const { rows } = await sql<LineRow>`
    select l.id, l.line_no, l.item, l.item_group, i.description, l.kind, l.unit, i.unit as stock_unit, l.price, l.percent, l.minimum, l.most, l.used,
      i.list_price, i.cost, coalesce(u.numerator, 1) as numerator, coalesce(u.denominator, 1) as denominator
    from contract_line l
    left join item i on i.code = l.item
    left join item_unit u on u.item = l.item and u.unit = l.unit
    where l.contract_id = ${contract} order by l.line_no`.execute(db);
  const overlaps = await readOverlaps(db, now, contract);
  const lists = await readBuyersLists(db, contract);
  return rows.map((row) => {
    const ratio = { numerator: row.numerator, denominator: row.denominator };
    const per = (value: string) => divide(times(value, ratio.numerator), ratio.denominator, 4);
    const listPrice = row.list_price === null ? null : per(row.list_price);
    const cost = row.cost === null ? null : per(row.cost);
    return {
      id: row.id,
      lineNo: row.line_no,
      item: row.item,
      group: row.item_group,
      description: row.description ?? `every item of ${row.item_group}`,
      kind: row.kind,
      unit: row.unit ?? row.stock_unit,
      price: row.price,
      percent: row.percent,
      minimum: row.minimum,
      most: row.most,
      used: row.used,
      listPrice,
      marginPercent: listPrice === null || cost === null ? null : marginPercent(askedPrice(row, ratio, listPrice), cost),
      lower: listPrice === null ? [] : lowerThan(row, askedPrice(row, ratio, listPrice), listPrice, lists.get(row.item!) ?? []),
      overlaps: overlaps.get(row.id) ?? [],
    };
  });
}

function askedPrice(row: LineRow, ratio: { readonly numerator: number; readonly denominator: number }, list: string): string {
  const terms: ContractTerms = row.kind === 'fixed' ? { kind: 'fixed', price: row.price!, ratio } : { kind: row.kind, percent: row.percent! };
  return offerPrice(terms, { ratio, list, cost: row.cost! });
}

interface BuyersPrice extends PriceBreak {
  readonly item: ItemCode;
  readonly list: string;
  readonly customers: string;
}

/** What the own lists of a contract's buyers ask for its items, by item. */
async function readBuyersLists(db: Db, contract: number): Promise<ReadonlyMap<string, readonly BuyersPrice[]>> {
  const { rows } = await sql<BuyersPrice>`
    select b.item, b.unit, b.from_quantity as "from", b.price, l.name as list, string_agg(distinct c.name, ', ') as customers
    from contract_customer cc
    join customer c on c.id = cc.customer_id
    join price_list l on l.code = c.price_list
    join price_break b on b.price_list = l.code
    where cc.contract_id = ${contract} and b.item in (select item from contract_line where contract_id = ${contract})
    group by b.item, b.unit, b.from_quantity, b.price, l.name
    order by l.name`.execute(db);
  const byItem = new Map<string, BuyersPrice[]>();
  for (const row of rows) byItem.set(row.item, [...(byItem.get(row.item) ?? []), row]);
  return byItem;
}

/** What asks less than a line of a contract, for the least that is bought under it. */
function lowerThan(row: LineRow, asked: string, listPrice: string, own: readonly BuyersPrice[]): string[] {
  const unit = row.unit ?? row.stock_unit!;
  const least = row.minimum === null ? '1' : divide(times(row.minimum, row.denominator), row.numerator, 4);
  const says: string[] = [];
  if (compareDecimal(listPrice, asked) < 0) says.push(`the list asks ${listPrice}`);
  for (const list of new Set(own.map((step) => step.list))) {
    const steps = own.filter((step) => step.list === list);
    const found = bestBreak(steps, unit, least);
    if (found && compareDecimal(found.price, asked) < 0) says.push(`${list} asks ${found.price}, for ${steps[0]!.customers}`);
  }
  return says;
}

/** What in other contracts a customer could buy the same goods under at the same time. */
async function readOverlaps(db: Db, { today }: Now, contract: number): Promise<ReadonlyMap<number, readonly string[]>> {
  const { rows } = await sql<{ id: number; number: string; line_no: number; customers: string; last_day: string }>`
    select l.id, oc.number, o.line_no, oc.last_day, string_agg(distinct customer.name, ', ') as customers
    from contract_line l
    join contract c on c.id = l.contract_id
    left join item i on i.code = l.item
    join contract oc on oc.id <> c.id and oc.first_day <= c.last_day and oc.last_day >= greatest(c.first_day, ${today}::date)
    join contract_line o on o.contract_id = oc.id
      and (o.item = l.item or o.item_group = coalesce(l.item_group, i.item_group) or (l.item_group is not null and o.item in (select code from item where item_group = l.item_group)))
    join contract_customer mine on mine.contract_id = c.id
    join contract_customer theirs on theirs.contract_id = oc.id and theirs.customer_id = mine.customer_id
      and (theirs.ship_to_id is null or mine.ship_to_id is null or theirs.ship_to_id = mine.ship_to_id)
    join customer on customer.id = mine.customer_id
    where c.id = ${contract}
    group by l.id, oc.number, o.line_no, oc.last_day
    order by l.id, oc.number, o.line_no`.execute(db);
  const byLine = new Map<number, string[]>();
  for (const row of rows)
    byLine.set(row.id, [...(byLine.get(row.id) ?? []), `${row.number} line ${row.line_no} until ${shortDay(row.last_day, today)}, for ${row.customers}`]);
  return byLine;
}

/** What released orders bought under a contract, against list price and cost. */
async function readSold(db: Db, contract: number): Promise<ContractView['sold']> {
  const { rows } = await sql<{ amount: string; at_list: string; cost: string }>`
    select round(coalesce(sum(round((l.stock_quantity - l.cancelled) * l.price * l.denominator / l.numerator, 2)), 0), 2)::text as amount,
      round(coalesce(sum((l.stock_quantity - l.cancelled) * i.list_price), 0), 2)::text as at_list,
      round(coalesce(sum((l.stock_quantity - l.cancelled) * i.cost), 0), 2)::text as cost
    from order_line l
    join sales_order o on o.id = l.order_id and o.state = 'released'
    join item i on i.code = l.item
    join contract_line c on c.id = l.contract_line_id
    where c.contract_id = ${contract}`.execute(db);
  const { amount, at_list: atList, cost } = rows[0]!;
  return { amount, atList, marginPercent: marginPercent(amount, cost), listMarginPercent: marginPercent(atList, cost) };
}
