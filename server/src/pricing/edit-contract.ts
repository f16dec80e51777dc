import type { ItemCode } from '@nockwright/core/ids';
import type { ContractLineWish, ContractView, pricingRoutes } from '@nockwright/contract/pricing';
import type { BodyOf } from '@nockwright/contract/shape';
import { compareDecimal } from '@nockwright/core/money';
import { type ContractHead, type PriceChange, type TermsOf } from '@nockwright/core/pricing';
import { unitName } from '@nockwright/core/units';
import type { Selectable } from 'kysely';
import { anyOf, type Database, type Trx } from '../database';
import { changedSince, recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { nextNumber } from '../numbers';
import { readContract } from './read-contract';

/** Makes a contract without buyers or lines. */
export async function createContract(context: CommandContext, wish: BodyOf<typeof pricingRoutes.createContract>): Promise<ContractView> {
  const { trx, now } = context;
  checkDays(wish.firstDay, wish.lastDay);
  const number = await nextNumber(trx, 'contract');
  const { id } = await trx
    .insertInto('contract')
    .values({ number, name: wish.name, first_day: wish.firstDay, last_day: wish.lastDay, note: wish.note ?? '' })
    .returning('id')
    .executeTakeFirstOrThrow();
  await recordEvent(context, { kind: 'contract.created', facts: { number }, after: wish, subjects: [{ kind: 'contract', key: id }] });
  return readContract(trx, now, id);
}

/** Changes name, days, note or buyers of a contract. What is sold under it stays as it was told. */
export async function changeContract(context: CommandContext, id: number, change: BodyOf<typeof pricingRoutes.changeContract>): Promise<ContractView> {
  const { trx, now } = context;
  const before = await lockContract(trx, id, change.version);
  const headBefore = await headOf(trx, id);
  const after = {
    name: change.name ?? before.name,
    first_day: change.firstDay ?? before.first_day,
    last_day: change.lastDay ?? before.last_day,
    note: change.note ?? before.note,
  };
  checkDays(after.first_day, after.last_day);
  await trx
    .updateTable('contract')
    .set({ ...after, version: before.version + 1 })
    .where('id', '=', id)
    .execute();
  if (change.buyers) await storeBuyers(trx, id, change.buyers);
  const headAfter = await headOf(trx, id);
  await recordEvent(context, {
    kind: 'contract.changed',
    facts: { number: before.number, before: headBefore, after: headAfter },
    before: headBefore,
    after: headAfter,
    subjects: [{ kind: 'contract', key: id }, ...(change.buyers ?? []).map((buyer) => ({ kind: 'customer' as const, key: buyer.customer }))],
  });
  return readContract(trx, now, id);
}

/** Name, days and buyers of a contract, as a change of them is told. */
async function headOf(trx: Trx, id: number): Promise<ContractHead> {
  const row = await trx
    .selectFrom('contract')
    .select(['name', 'first_day as firstDay', 'last_day as lastDay', 'note'])
    .where('id', '=', id)
    .executeTakeFirstOrThrow();
  const buyers = await trx
    .selectFrom('contract_customer')
    .innerJoin('customer', 'customer.id', 'contract_customer.customer_id')
    .leftJoin('ship_to', 'ship_to.id', 'contract_customer.ship_to_id')
    .select(['customer.name', 'ship_to.street', 'ship_to.town'])
    .where('contract_id', '=', id)
    .orderBy('customer.name')
    .orderBy('ship_to.id')
    .execute();
  return { ...row, buyers: buyers.map(({ name, street, town }) => (street === null ? name : `${name}, ${street}, ${town}`)) };
}

async function storeBuyers(trx: Trx, contract: number, buyers: readonly { readonly customer: number; readonly shipTo: number | null }[]) {
  const seen = new Set<string>();
  for (const [at, { customer, shipTo }] of buyers.entries()) {
    const key = `${customer}/${shipTo ?? ''}`;
    if (seen.has(key)) throw invalid(`body.buyers[${at}]`, 'stands there twice');
    seen.add(key);
    const known = await trx.selectFrom('customer').select('name').where('id', '=', customer).executeTakeFirst();
    if (!known) throw invalid(`body.buyers[${at}].customer`, `there is no customer ${customer}`);
    if (shipTo === null) continue;
    const place = await trx.selectFrom('ship_to').select('id').where('id', '=', shipTo).where('customer_id', '=', customer).executeTakeFirst();
    if (!place) throw invalid(`body.buyers[${at}].shipTo`, `${shipTo} is no address of ${known.name}`);
  }
  await trx.deleteFrom('contract_customer').where('contract_id', '=', contract).execute();
  if (buyers.length > 0)
    await trx
      .insertInto('contract_customer')
      .values(buyers.map(({ customer, shipTo }) => ({ contract_id: contract, customer_id: customer, ship_to_id: shipTo })))
      .execute();
}

/**
 * Writes lines of a contract, all or none. A line for the same item or group and unit is changed and keeps what is used
 * of it; `all`: lines that are not named go, unless something was bought under them.
 */
export async function storeContractLines(context: CommandContext, id: number, wish: BodyOf<typeof pricingRoutes.storeContractLines>): Promise<ContractView> {
  const { trx, now } = context;
  const contract = await lockContract(trx, id, wish.version);
  const before = await trx.selectFrom('contract_line').selectAll().where('contract_id', '=', id).orderBy('id').forNoKeyUpdate().execute();
  await checkLines(trx, wish.lines);
  const known = new Map(before.map((row) => [keyOf({ item: row.item, group: row.item_group, unit: row.unit }), row]));
  const named = new Set<number>();
  let next = Math.max(0, ...before.map((row) => row.line_no));
  for (const [at, line] of wish.lines.entries()) {
    const row = known.get(keyOf(line));
    const values = {
      kind: line.kind,
      unit: line.unit ?? null,
      price: line.price ?? null,
      percent: line.percent ?? null,
      minimum: line.minimum ?? null,
      most: line.most ?? null,
    };
    if (row) {
      named.add(row.id);
      if (values.most !== null && compareDecimal(values.most, row.used) < 0)
        throw invalid(`body.lines[${at}].most`, `${row.used} are bought under it already; expected at least that, got ${values.most}`);
      await trx.updateTable('contract_line').set(values).where('id', '=', row.id).execute();
    } else {
      await trx
        .insertInto('contract_line')
        .values({ ...values, contract_id: id, line_no: ++next, item: line.item ?? null, item_group: line.group ?? null })
        .execute();
    }
  }
  if (wish.all)
    await removeLines(
      trx,
      before.filter((row) => !named.has(row.id)),
    );
  await trx
    .updateTable('contract')
    .set({ version: contract.version + 1 })
    .where('id', '=', id)
    .execute();
  const changes = termChanges(before, await trx.selectFrom('contract_line').selectAll().where('contract_id', '=', id).orderBy('line_no').execute());
  await recordEvent(context, {
    kind: 'contract.lines_changed',
    facts: { number: contract.number, changes },
    before: changes.flatMap((row) => row.before ?? []),
    after: changes.flatMap((row) => row.after ?? []),
    subjects: [{ kind: 'contract', key: id }, ...wish.lines.flatMap((line) => (line.item ? [{ kind: 'item' as const, key: line.item }] : []))],
  });
  return readContract(trx, now, id);
}

type LineRow = Pick<Selectable<Database['contract_line']>, 'id' | 'item' | 'item_group' | 'unit' | 'kind' | 'price' | 'percent' | 'minimum' | 'most'>;

/** What differs between the lines of a contract before and after. */
function termChanges(before: readonly LineRow[], after: readonly LineRow[]): PriceChange<TermsOf>[] {
  const terms = ({ item, item_group: group, unit, kind, price, percent, minimum, most }: LineRow): TermsOf => ({
    item,
    group,
    unit,
    kind,
    price,
    percent,
    minimum,
    most,
  });
  const was = new Map(before.map((row) => [row.id, terms(row)]));
  const is = new Map(after.map((row) => [row.id, terms(row)]));
  return [
    ...[...is].map(([id, row]) => ({ before: was.get(id) ?? null, after: row })).filter((row) => JSON.stringify(row.before) !== JSON.stringify(row.after)),
    ...[...was].filter(([id]) => !is.has(id)).map(([, row]) => ({ before: row, after: null })),
  ];
}

async function removeLines(
  trx: Trx,
  rows: readonly { readonly id: number; readonly line_no: number; readonly item: ItemCode | null; readonly item_group: string | null }[],
) {
  const ids = rows.map((row) => row.id);
  const used = await trx.selectFrom('order_line').select('contract_line_id').distinct().where(anyOf('contract_line_id', ids)).execute();
  const kept = rows.filter((row) => used.some((line) => line.contract_line_id === row.id));
  if (kept.length > 0)
    throw new Refusal(
      'conflict',
      `Orders are priced by ${kept.map((row) => `line ${row.line_no} (${row.item ?? row.item_group})`).join(', ')}: set its most to what is used, or end the contract.`,
    );
  await trx.deleteFrom('contract_line').where(anyOf('id', ids)).execute();
}

/** A line is for an item or a group, and for a fixed price for a unit. */
function keyOf(line: { readonly item?: ItemCode | null; readonly group?: string | null; readonly unit?: string | null }): string {
  return `${line.item ?? ''}\u0000${line.group ?? ''}\u0000${line.unit ?? ''}`;
}

/** Every fault of the lines at once, with where it stands. */
async function checkLines(trx: Trx, lines: readonly ContractLineWish[]) {
  const codes = [...new Set(lines.flatMap((line) => line.item ?? []))];
  const items = new Map((await trx.selectFrom('item').select(['code', 'unit']).where(anyOf('code', codes)).execute()).map((row) => [row.code, row.unit]));
  const units = new Set(
    (await trx.selectFrom('item_unit').select(['item', 'unit']).where(anyOf('item', codes)).execute()).map((row) => `${row.item} ${row.unit}`),
  );
  const groups = new Set((await trx.selectFrom('item').select('item_group').distinct().execute()).map((row) => row.item_group));
  const errors: { field: string; message: string }[] = [];
  const seen = new Map<string, number>();
  lines.forEach((line, at) => {
    const fault = (field: string, message: string) => errors.push({ field: `body.lines[${at}].${field}`, message });
    if ((line.item === undefined) === (line.group === undefined)) return fault('item', 'expected an item or a group, and not both');
    if (line.item !== undefined && !items.has(line.item)) fault('item', `there is no item ${line.item}`);
    if (line.group !== undefined && !groups.has(line.group)) fault('group', `there is no group ${line.group}; there are ${[...groups].sort().join(', ')}`);
    if (line.kind === 'fixed') {
      if (line.group !== undefined) fault('kind', 'a fixed price is for an item');
      if (line.price === undefined) fault('price', 'a fixed price is missing');
      if (line.unit === undefined) fault('unit', 'a fixed price is for a unit');
      else if (line.item !== undefined && items.has(line.item) && items.get(line.item) !== line.unit && !units.has(`${line.item} ${line.unit}`))
        fault('unit', `${line.item} is not sold by ${unitName(line.unit)}`);
    } else {
      if (line.percent === undefined) fault('percent', 'a percentage is missing');
      else if (line.kind === 'off_list' && compareDecimal(line.percent, '100') > 0) fault('percent', `expected at most 100, got ${line.percent}`);
      if (line.unit !== undefined) fault('unit', 'a percentage holds for every unit');
    }
    const key = keyOf(line);
    if (seen.has(key)) fault('item', `stands in line ${seen.get(key)! + 1} of these already`);
    else seen.set(key, at);
  });
  if (errors.length > 0) throw new Refusal('invalid', errors.map((error) => `${error.field}: ${error.message}`).join('; '), errors);
}

async function lockContract(trx: Trx, id: number, version: number) {
  const row = await trx.selectFrom('contract').selectAll().where('id', '=', id).forNoKeyUpdate().executeTakeFirst();
  if (!row) throw notFound(`contract ${id}`);
  if (row.version !== version)
    throw await changedSince(trx, { kind: 'contract', key: row.id, label: `Contract ${row.number}`, given: version, current: row.version });
  return row;
}

function checkDays(firstDay: string, lastDay: string) {
  if (lastDay < firstDay) throw invalid('body.lastDay', `expected ${firstDay} or later, got ${lastDay}`);
}
