import type { CurrentUser } from '../server/src/http/context';
import { createClock } from '../server/src/clock';
import { connect, type Db } from '../server/src/database';
import { Desk } from './desk/desk';
import { rollDice, type Dice } from './dice';
import { loadQuotes } from './load-quotes';
import { loadStanding } from './load-standing';
import { loadReceipts } from './standing/suppliers';
import { ITEMS } from './scenario/items';
import { CUSTOMERS, DEMO_PASSWORD, USERS, WAREHOUSES } from './scenario/partners';
import { partsAndPicks, cancellations, morningDrafts, contestedGoods, insideAndAnswers } from './situations-of-orders';
import { shortages, specialOrders, dropShipments, slippedSupply } from './situations-of-supply';

const SEED = 20417;
const ROUTINE_ORDERS = 84;

/**
 * Loads Marrowby Apiary Supply into an empty database: standing data, then the trade of the last weeks, carried out by
 * the desk's own commands on the days it happened. All days hang on today.
 */
async function main() {
  const url = process.env['NOCK_DATABASE'];
  if (!url) throw new Error('NOCK_DATABASE is not set; npm run demo:reset sets it');
  const { db, pool } = connect(url, 4);
  try {
    const known = await db.selectFrom('app_user').select('id').limit(1).executeTakeFirst();
    if (!known) await load(db, createClock(process.env['NOCK_TODAY'])().today);
    process.stdout.write(
      `Demo users, all with the password ${DEMO_PASSWORD}:\n${USERS.map((user) => `  ${user.login.padEnd(5)} ${user.name}, ${user.role}`).join('\n')}\n`,
    );
  } finally {
    await pool.end();
  }
}

async function load(db: Db, today: string) {
  await loadStanding(db, today);
  const user: CurrentUser = await db.selectFrom('app_user').select(['id', 'login', 'name', 'role']).where('login', '=', 'ida').executeTakeFirstOrThrow();
  const desk = new Desk(db, user, today);
  const dice = rollDice(SEED);
  await desk.stockUp(-60, openingStock(dice));
  // Dice of their own: the rest of the demo stays as it is, whatever the suppliers did.
  await loadReceipts(db, today, rollDice(SEED + 1));
  await loadSupply(desk);
  await loadRoutine(desk, dice);
  await loadSituations(desk);
  await loadQuotes(desk);
  await loadMoney(desk);
  await desk.number(-1, 'EXT-T4-MN', (at) => `T4-26-${String(1040 + at)}`);
}

/** Billing of the last weeks: what left is billed by rule, and some of it is paid, to the cent, over and short. */
async function loadMoney(desk: Desk) {
  await desk.billed(-20, 'C1011', { rule: 'shipment', discount: '2' });
  await desk.billed(-20, 'C1001', { rule: 'monthly' });
  await desk.billed(-20, 'C1014', { rule: 'weekly' });
  await desk.bill(-8);
  await desk.paid(-4, 'C1018');
  await desk.paid(-3, 'C1012', '25.00');
  await desk.paid(-2, 'C1005', '-10.00');
  await desk.bankFile(-1);
  await desk.invoiced(-2, 'HALEWOOD', 'HW-2210');
  await desk.invoiced(-1, 'MELLISH', '88301', 1.2);
}

/** What was on hand two months ago. Items that are only bought on order have none. */
function openingStock(dice: Dice): (readonly [string, string, number])[] {
  return ITEMS.flatMap((item) => {
    if (/^(NUC|QUN|LBL)/.test(item.code)) return [];
    const cost = Number(item.cost);
    const base = cost < 1 ? 2400 : cost < 10 ? 160 : cost < 50 ? 36 : cost < 150 ? 9 : 3;
    return WAREHOUSES.map(
      ({ code }) => [item.code, code, Math.max(1, Math.round((base * (code === 'MAR' ? 100 : 45) * dice.whole(70, 130)) / 10_000))] as const,
    );
  });
}

/** Purchases on their way: on time, overdue, received in part, still drafts. */
async function loadSupply(desk: Desk) {
  await desk.purchase(-12, 'TARNBECK', 'MAR', 5, [
    ['JAR-340-HX', 4320],
    ['LID-063-GD', 4800],
    ['JAR-454-RD', 1440],
  ]);
  await desk.purchase(-9, 'APPLEYARD', 'MAR', 6, [
    ['FND-DN-W', 1200],
    ['FND-SN-W', 800],
    ['WAX-BLK-1', 20],
  ]);
  await desk.purchase(-10, 'APPLEYARD', 'QUI', 8, [
    ['FND-DN-W', 600],
    ['FND-DN-P', 400],
  ]);
  await desk.purchase(-15, 'ORRINGTON', 'MAR', 9, [
    ['BOD-N10-CD', 30],
    ['SUP-N10-CD', 40],
    ['FRM-DN-1', 600],
    ['HIV-N10-CD', 6],
  ]);
  await desk.purchase(-14, 'STELLING', 'MAR', 11, [
    ['TNK-100-ST', 6],
    ['EXT-R9-EL', 2],
    ['SMK-SS-10', 24],
  ]);
  await desk.purchase(-8, 'MELLISH', 'OST', 3, [
    ['FEE-FON-25', 200],
    ['TRT-OXA-035', 40],
  ]);
  await desk.purchase(-13, 'CORVANE', 'QUI', 7, [
    ['SUT-VNT-M', 8],
    ['SUT-VNT-L', 8],
    ['GLV-LTH-9', 20],
  ]);
  await desk.purchase(
    -2,
    'PENNARD',
    'MAR',
    6,
    [
      ['TOL-HIV-J', 60],
      ['BKT-030-PL', 100],
    ],
    false,
  );
  await desk.purchase(
    -1,
    'MELLISH',
    'MAR',
    4,
    [
      ['FEE-POL-05', 40],
      ['TRT-THY-02', 60],
    ],
    false,
  );
  // Overdue: made and due a while ago, nothing heard since.
  await desk.purchase(-6, 'TARNBECK', 'QUI', -3, [
    ['JAR-227-HX', 1440],
    ['CMB-CUT-25', 240],
  ]);
  await desk.purchase(-7, 'ORRINGTON', 'OST', -4, [['STD-N10-PN', 12]]);
  // Received in part; the rest of one is still awaited, of the other closed.
  const part = await desk.purchase(-11, 'MELLISH', 'MAR', -2, [
    ['FEE-SYR-14', 40],
    ['TRT-OXA-035', 120],
  ]);
  await desk.receive(-2, part, 0.5);
  await desk.damaged(-2, part, 6);
  const short = await desk.purchase(-16, 'HALEWOOD', 'MAR', -6, [['FRM-SN-1', 400]]);
  await desk.receive(-6, short, 0.8);
  await desk.closeRest(-4, short, 'supplier cannot deliver the rest');
}

/** Everyday orders of the last four weeks: the older ones have left, the newer ones are promised or being picked. */
async function loadRoutine(desk: Desk, dice: Dice) {
  const sold = ITEMS.filter((item) => !item.successor && !/^(NUC|QUN|LBL|EXT)/.test(item.code));
  for (let at = 0; at < ROUTINE_ORDERS; at++) {
    const days = -20 + Math.floor((at * 20) / ROUTINE_ORDERS);
    const customer = dice.pick(CUSTOMERS);
    const items = new Map(Array.from({ length: dice.whole(1, 4) }, () => dice.pick(sold)).map((item) => [item.code, item]));
    const lines = [...items.values()].map((item) => {
      const larger = item.units[0];
      const cost = Number(item.cost);
      if (larger && dice.chance(65)) return [item.code, dice.whole(1, larger[1] > 100 ? 1 : 6), larger[0]] as const;
      return [item.code, cost < 1 ? dice.whole(2, 12) * 10 : cost < 10 ? dice.whole(2, 20) : dice.whole(1, cost > 100 ? 1 : 5)] as const;
    });
    const order = await desk.order(days, customer[0], lines, {
      inDays: dice.whole(2, 9),
      requestKind: dice.chance(40) ? 'deliver_by' : 'ship_by',
      source: dice.pick(['phone', 'mail', 'mail', 'portal', 'counter'] as const),
      poNumber: dice.chance(70) ? `${customer[0].slice(2)}-${4100 + at * 3}` : '',
    });
    if (days < -10) await desk.pick(days + 2, order, true);
    else if (days < -6 && dice.chance(50)) await desk.pick(days + 2, order, true, dice.chance(40) ? 0.5 : 1);
  }
}

/** The cases a coordinator meets on a bad day, each at least twice. */
async function loadSituations(desk: Desk) {
  await shortages(desk);
  await specialOrders(desk);
  await dropShipments(desk);
  const forks = await slippedSupply(desk);
  await partsAndPicks(desk);
  await cancellations(desk);
  await morningDrafts(desk);
  await contestedGoods(desk);
  await insideAndAnswers(desk, forks);
}

main().catch((error: unknown) => {
  process.stderr.write(`The demo could not be loaded: ${error instanceof Error ? (error.stack ?? error.message) : String(error)}\n`);
  process.exit(1);
});
