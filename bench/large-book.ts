import { isoDay, dayNumber } from '@nockwright/core/calendar';
import type { BookDemand, BookOrder, BookSupply, OrderBook } from '@nockwright/core/promise';
import { rollDice } from '../demo/dice';

const FIRST = dayNumber('2027-03-01');
const LINES_AN_ORDER = 3;
const DEMANDS_A_POOL = 20;
const HORIZON = 90;
/** A few items that everyone orders, each with one demand in fifty: 20,000 of 1,000,000. */
const FAVOURITES = 4;
const FAVOURITE_SHARE = 2;

/** A book of `demands` lines over `demands / 20` items, half of them promised before; the same for the same number. */
export function largeBook(demands: number): OrderBook {
  const dice = rollDice(demands);
  const items = Math.max(FAVOURITES + 1, Math.floor(demands / DEMANDS_A_POOL));
  const days = Array.from({ length: HORIZON }, (_, at) => isoDay(FIRST + at));
  const orders: BookOrder[] = Array.from({ length: Math.ceil(demands / LINES_AN_ORDER) }, (_, at) => ({
    id: `O${at}`,
    priority: dice.whole(1, 9),
    entered: `2027-02-${String(dice.whole(1, 28)).padStart(2, '0')}T${String(dice.whole(8, 17)).padStart(2, '0')}:${String(dice.whole(0, 59)).padStart(2, '0')}`,
  }));
  const supply: BookSupply[] = [];
  for (let item = 0; item < items; item++) {
    const favourite = item < FAVOURITES;
    const size = favourite ? Math.max(1, Math.floor((demands * FAVOURITE_SHARE) / 100 / DEMANDS_A_POOL)) : 1;
    supply.push({ id: `H${item}`, item: `I${item}`, warehouse: 'N', quantity: dice.whole(50, 80) * size });
    for (let at = 0; at < (favourite ? 60 : 3); at++) {
      const quantity = Math.max(1, Math.floor(dice.whole(20, 60) * size * (favourite ? 1 / 20 : 1)));
      supply.push({ id: `P${item}/${at}`, item: `I${item}`, warehouse: 'N', quantity, date: days[dice.whole(1, HORIZON - 1)]! });
    }
  }
  const demand: BookDemand[] = Array.from({ length: demands }, (_, at) => {
    const quantity = dice.whole(1, 20);
    const requested = days[dice.whole(0, HORIZON - 1)]!;
    const favourite = dice.chance(FAVOURITES * FAVOURITE_SHARE);
    return {
      id: `D${at}`,
      order: `O${Math.floor(at / LINES_AN_ORDER)}`,
      item: `I${favourite ? dice.whole(0, FAVOURITES - 1) : dice.whole(FAVOURITES, items - 1)}`,
      warehouse: 'N',
      quantity,
      requested,
      ...(dice.chance(25) ? { partial: false } : {}),
      ...(dice.chance(50) ? { promised: [{ date: requested, quantity }] } : {}),
    };
  });
  return {
    asOf: '2027-03-01T09:30',
    warehouses: [{ id: 'N', workdays: [1, 2, 3, 4, 5], receivingDays: 1 }],
    items: Array.from({ length: items }, (_, item) => ({ id: `I${item}` })),
    supply,
    orders,
    demand,
  };
}

/** A book in which every demand is for one item: the worst a timeline meets. */
export function hotItemBook(demands: number): OrderBook {
  const book = largeBook(demands);
  const supply = Array.from({ length: 400 }, (_, at) => ({
    id: `S${at}`,
    item: 'HOT',
    warehouse: 'N',
    quantity: Math.ceil((demands * 10) / 400),
    ...(at === 0 ? {} : { date: isoDay(FIRST + 1 + (at % (HORIZON - 1))) }),
  }));
  return { ...book, items: [{ id: 'HOT' }], supply, demand: book.demand.map((row) => ({ ...row, item: 'HOT' })) };
}
