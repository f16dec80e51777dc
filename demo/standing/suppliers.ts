import { dayNumber, isoDay } from '@nockwright/core/calendar';
import { divide, times } from '@nockwright/core/money';
import type { Db } from '../../server/src/database';
import type { Dice } from '../dice';
import { ITEMS } from '../scenario/items';
import { LANES, SUPPLIERS, TERMS } from '../scenario/partners';
import { RECORDS } from '../scenario/receipts';

export async function loadSuppliers(db: Db, today: string) {
  for (const { code, name, leadDays, dropShips, fee, sells, share, minimum, multiple } of SUPPLIERS) {
    const terms = TERMS[code] ?? {};
    await db
      .insertInto('supplier')
      .values({
        code,
        name,
        email: '',
        lead_days: leadDays,
        drop_ships: dropShips,
        drop_ship_fee: fee,
        order_days: [...(terms.orderDays ?? [1, 2, 3, 4, 5])],
        cutoff: terms.cutoff ?? null,
        transit_days: terms.transitDays ?? 0,
        minimum_value: terms.minimumValue ?? '0',
        freight: terms.freight ?? '0',
        freight_free_from: terms.freeFrom ?? null,
      })
      .execute();
    for (const days of terms.closedAfter ?? [])
      await db
        .insertInto('supplier_closed_day')
        .values({ supplier: code, day: isoDay(dayNumber(today) + days) })
        .execute();
    const items = ITEMS.filter((item) => !item.successor && sells.some((prefix) => item.code.startsWith(prefix)));
    const rows = items.map((item, at) => ({
      supplier: code,
      item: item.code,
      their_code: `${code.slice(0, 2)}${1000 + at * 7}`,
      cost: divide(times(item.cost, share), 1, 4),
      lead_days: null,
      // A supplier's minimum is for small goods: nobody has to buy a hundred wax blocks.
      minimum: Number(item.cost) > 5 ? '1' : minimum,
      multiple: Number(item.cost) > 5 ? '1' : multiple,
      returnable: !(terms.keeps ?? []).some((prefix) => item.code.startsWith(prefix)),
    }));
    await db.insertInto('supplier_item').values(rows).execute();
    const breaks = rows.flatMap(({ item, cost }) =>
      (terms.breaks ?? []).map(([from, part]) => ({ supplier: code, item, from_quantity: from, cost: divide(times(cost, part), 1, 4) })),
    );
    if (breaks.length > 0) await db.insertInto('supplier_item_break').values(breaks).execute();
  }
  await db
    .insertInto('transfer_lane')
    .values(LANES.map(([from, to, days, cost]) => ({ from_warehouse: from, to_warehouse: to, transit_days: days, cost_per_kg: cost })))
    .execute();
}

/** A year of receipts, which shows who is late and by how much; the days of each supplier lie evenly over the year. */
export async function loadReceipts(db: Db, today: string, dice: Dice): Promise<void> {
  for (const { supplier, receipts, days } of RECORDS) {
    const items = await db.selectFrom('supplier_item').select('item').where('supplier', '=', supplier).orderBy('item').execute();
    const rows = Array.from({ length: receipts }, (_, at) => {
      const promised = dayNumber(today) - 400 + Math.floor((at * 365) / receipts);
      return { supplier, item: dice.pick(items).item, promised_day: isoDay(promised), received_day: isoDay(promised + lateBy(days, dice)) };
    });
    await db.insertInto('supplier_receipt').values(rows).execute();
  }
}

function lateBy(days: readonly (readonly [late: number, percent: number])[], dice: Dice): number {
  let roll = dice.whole(1, 100);
  for (const [late, percent] of days) if ((roll -= percent) <= 0) return late;
  return 0;
}
