import type { ContractId, ItemCode } from '@nockwright/core/ids';
import type { ContractOffer, PriceBreak, PriceQuestion } from '@nockwright/core/pricing';
import { sql } from 'kysely';
import { anyOf, type Db } from '../database';

const LIST = 'LIST';
/** Contracts that ended or begin within so many days of the order are told of, too. */
const NEAR_DAYS = 60;

/** Who buys: what their prices are looked up by. */
export interface Buyer {
  readonly customer: number;
  readonly shipTo: number;
  /** The contract the order names; null: none. */
  readonly named: number | null;
}

/** An item whose price is asked. */
export interface PricedItem {
  readonly code: string;
  readonly group: string;
}

export type PriceSources = Pick<PriceQuestion, 'listBreaks' | 'customerList' | 'contracts'>;

/** Where prices of some items may come from for a buyer, besides their list prices. */
export async function loadPriceSources(db: Db, codes: readonly string[], buyer: Buyer, day: string): Promise<(item: PricedItem) => PriceSources> {
  const [terms, breaks, offers] = await Promise.all([loadTerms(db, buyer.customer), loadBreaks(db, codes, buyer.customer), loadOffers(db, codes, buyer, day)]);
  const list = terms.price_list === LIST ? null : terms.price_list;
  const rules = { choice: terms.contract_choice, several: terms.several_contracts, mustName: terms.must_name_contract };
  const breaksOf = (item: ItemCode, code: string): PriceBreak[] =>
    breaks.filter((row) => row.item === item && row.price_list === code).map(({ unit, from, price }) => ({ unit, from, price }));
  return (item) => ({
    listBreaks: breaksOf(item.code, LIST),
    customerList: list === null ? null : { name: terms.list_name!, breaks: breaksOf(item.code, list) },
    contracts: {
      rules,
      named: buyer.named,
      inUse: [],
      offers: offers.filter((row) => row.item === item.code || row.group === item.group).map((row) => row.offer),
    },
  });
}

/** The breaks of the list and of the customer's own. */
async function loadBreaks(db: Db, items: readonly string[], customer: number) {
  return db
    .selectFrom('price_break')
    .select(['item', 'price_list', 'unit', 'from_quantity as from', 'price'])
    .where(anyOf('item', items))
    .where((eb) =>
      eb.or([eb('price_list', '=', LIST), eb('price_list', '=', eb.selectFrom('customer').select('customer.price_list').where('id', '=', customer))]),
    )
    .execute();
}

/** The customer's own price list, and how they buy under contracts. */
async function loadTerms(db: Db, customer: number) {
  return db
    .selectFrom('customer')
    .leftJoin('price_list', 'price_list.code', 'customer.price_list')
    .select(['customer.price_list', 'price_list.name as list_name', 'contract_choice', 'several_contracts', 'must_name_contract'])
    .where('customer.id', '=', customer)
    .executeTakeFirstOrThrow();
}

interface OfferRow {
  readonly id: number;
  readonly line_no: number;
  readonly item: ItemCode | null;
  readonly item_group: string | null;
  readonly kind: 'fixed' | 'off_list' | 'cost_plus';
  readonly price: string | null;
  readonly percent: string | null;
  readonly minimum: string | null;
  readonly most: string | null;
  readonly used: string;
  readonly contract_id: ContractId;
  readonly number: string;
  readonly name: string;
  readonly first_day: string;
  readonly last_day: string;
  readonly numerator: number;
  readonly denominator: number;
  readonly for_ship_to: boolean;
}

/** The contract lines a customer has for items or their groups, also those that have just ended or begin soon. */
async function loadOffers(db: Db, codes: readonly string[], { customer, shipTo }: Buyer, day: string) {
  const { rows } = await sql<OfferRow>`
    select l.id, l.line_no, l.item, l.item_group, l.kind, l.price, l.percent, l.minimum, l.most, l.used,
      c.id as contract_id, c.number, c.name, c.first_day, c.last_day,
      coalesce(u.numerator, 1) as numerator, coalesce(u.denominator, 1) as denominator,
      (select bool_or(ship_to_id is null or ship_to_id = ${shipTo}) from contract_customer where contract_id = c.id and customer_id = ${customer}) as for_ship_to
    from contract_line l
    join contract c on c.id = l.contract_id
    left join item_unit u on u.item = l.item and u.unit = l.unit
    where exists (select from contract_customer where contract_id = c.id and customer_id = ${customer})
      and c.first_day <= ${day}::date + ${NEAR_DAYS}::int and c.last_day >= ${day}::date - ${NEAR_DAYS}::int
      and (l.item = any(${codes}::text[]) or l.item_group in (select item_group from item where code = any(${codes}::text[])))
    order by c.last_day, l.id`.execute(db);
  return rows.map((row) => ({ item: row.item, group: row.item_group, offer: asOffer(row) }));
}

function asOffer(row: OfferRow): ContractOffer {
  const { numerator, denominator } = row;
  return {
    id: row.id,
    lineNo: row.line_no,
    contract: { id: row.contract_id, number: row.number, name: row.name },
    terms: row.kind === 'fixed' ? { kind: 'fixed', price: row.price!, ratio: { numerator, denominator } } : { kind: row.kind, percent: row.percent! },
    group: row.item_group,
    minimum: row.minimum,
    most: row.most,
    used: row.used,
    firstDay: row.first_day,
    lastDay: row.last_day,
    forShipTo: row.for_ship_to,
  };
}
