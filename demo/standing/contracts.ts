import { dayNumber, isoDay } from '@nockwright/core/calendar';
import type { Db } from '../../server/src/database';
import { CONTRACT_RULES, CONTRACTS, FLOOR_MARGIN } from '../scenario/contracts';

const FIRST_CONTRACT = 1001;

/** Contracts as the manager made them, before anything was sold under them. */
export async function loadContracts(db: Db, today: string) {
  await db
    .insertInto('desk_setting')
    .values({ name: 'floor_margin', value: String(FLOOR_MARGIN) })
    .execute();
  for (const { customer, mustName, several, choice } of CONTRACT_RULES)
    await db
      .updateTable('customer')
      .set({ must_name_contract: mustName, several_contracts: several, contract_choice: choice })
      .where('number', '=', customer)
      .execute();
  for (const [at, { name, days, customers, lines }] of CONTRACTS.entries()) {
    const day = (offset: number) => isoDay(dayNumber(today) + offset);
    const { id } = await db
      .insertInto('contract')
      .values({ number: `K${FIRST_CONTRACT + at}`, name, first_day: day(days[0]), last_day: day(days[1]) })
      .returning('id')
      .executeTakeFirstOrThrow();
    for (const number of customers) {
      const customer = await db.selectFrom('customer').select('id').where('number', '=', number).executeTakeFirstOrThrow();
      await db.insertInto('contract_customer').values({ contract_id: id, customer_id: customer.id, ship_to_id: null }).execute();
    }
    await db
      .insertInto('contract_line')
      .values(
        lines.map(({ item, group, kind, unit, price, percent, minimum, most }, line) => ({
          contract_id: id,
          line_no: line + 1,
          item: item ?? null,
          item_group: group ?? null,
          kind,
          unit: unit ?? null,
          price: price ?? null,
          percent: percent ?? null,
          minimum: minimum ?? null,
          most: most ?? null,
        })),
      )
      .execute();
  }
  await db
    .updateTable('number_series')
    .set({ next: FIRST_CONTRACT + CONTRACTS.length })
    .where('name', '=', 'contract')
    .execute();
}
