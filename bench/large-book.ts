import { isoDay, dayNumber } from '@nockwright/core/calendar';
import type { BookDemand, BookOrder, BookSupply, OrderBook } from '@nockwright/core/promise';
import { rollDice } from '../demo/dice';

const FIRST = dayNumber('2027-03-01');
const LINES_AN_ORDER = 3;
const DEMANDS_A_POOL = 20;

/** A book of `demands` lines over `demands / 20` items, half of them promised before; the same for the same number. */
export function largeBook(demands: number): OrderBook {
  const dice = rollDice(demands);
  const pools = Math.max(1, Math.floor(demands / DEMANDS_A_POOL));
  const orders: BookOrder[] = Array.from({ length: Math.ceil(demands / LINES_AN_ORDER) }, (_, at) => ({
    id: `O${at}`,
    priority: dice.whole(1, 9),
    entered: '2027-02-20T10:00',
  }));
  const supply: BookSupply[] = Array.from({ length: pools }, (_, item) => item).flatMap((item) => [
    { id: `H${item}`, item: `I${item}`, warehouse: 'N', quantity: dice.whole(50, 200) },
    ...Array.from({ length: 3 }, (_, at) => ({
      id: `P${item}/${at}`,
      item: `I${item}`,
      warehouse: 'N',
      quantity: dice.whole(20, 120),
      date: isoDay(FIRST + dice.whole(1, 60)),
    })),
  ]);
  const demand: BookDemand[] = Array.from({ length: demands }, (_, at) => {
    const quantity = dice.whole(1, 20);
    const requested = isoDay(FIRST + dice.whole(0, 60));
    return {
      id: `D${at}`,
      order: `O${Math.floor(at / LINES_AN_ORDER)}`,
      item: `I${dice.whole(0, pools - 1)}`,
      warehouse: 'N',
      quantity,
      requested,
      ...(dice.chance(50) ? { promised: [{ date: requested, quantity }] } : {}),
    };
  });
  return {
    asOf: '2027-03-01T09:30',
    warehouses: [{ id: 'N', workdays: [1, 2, 3, 4, 5], receivingDays: 1 }],
    items: Array.from({ length: pools }, (_, item) => ({ id: `I${item}` })),
    supply,
    orders,
    demand,
  };
}
