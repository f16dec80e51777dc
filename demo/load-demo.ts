import type { CurrentUser } from '../server/src/http/context';
import { createClock } from '../server/src/clock';
import { connect, type Db } from '../server/src/database';
import { Desk } from './desk';
import { rollDice, type Dice } from './dice';
import { loadQuotes } from './load-quotes';
import { loadReceipts, loadStanding } from './load-standing';
import { ITEMS } from './scenario/items';
import { CUSTOMERS, DEMO_PASSWORD, USERS, WAREHOUSES } from './scenario/partners';

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
  // Wants more than there is: part now, part from what is due.
  await desk.order(
    -3,
    'C1001',
    [
      ['JAR-340-HX', 160, 'XTY'],
      ['LID-063-GD', 3840],
      ['FND-DN-W', 12, 'XBX'],
    ],
    { inDays: 7, poNumber: 'WH-8841', source: 'mail' },
  );
  await desk.order(
    -2,
    'C1011',
    [
      ['FND-DN-W', 20, 'XBX'],
      ['FND-SN-W', 9, 'XBX'],
    ],
    { inDays: 6, poNumber: 'HX/311' },
  );
  // Nothing on hand or due: waits for the next purchase.
  await desk.order(
    -4,
    'C1009',
    [
      ['FEE-POL-05', 190],
      ['TRT-THY-02', 6, 'XBX'],
    ],
    { inDays: 3, source: 'mail' },
  );
  await desk.order(-2, 'C1017', [['ROF-N10-GV', 60]], { inDays: 6 });
  await desk.order(-1, 'C1013', [['MRK-PEN-5', 300]], { inDays: 4 });
  // Special orders: bought for one line. A draft purchase, one sent, one come in and ready to leave.
  const queens = await desk.draft(
    -3,
    'C1004',
    [
      ['QUN-BUC-F1', 12],
      ['CLP-QUN-1', 12],
    ],
    { inDays: 14 },
  );
  await desk.route(-3, queens, 1, 'special_order', 'DRAYCOMBE', 12);
  await desk.release(-3, queens);
  const labels = await desk.draft(
    -8,
    'C1018',
    [
      ['LBL-CUS-1K', 4],
      ['JAR-340-RD', 20, 'XTY'],
    ],
    { inDays: 10, poNumber: 'WB-77' },
  );
  await desk.route(-8, labels, 1, 'special_order', 'PENNARD', 4);
  await desk.release(-8, labels);
  for (const purchase of await desk.purchasesOf(labels)) await desk.send(-8, purchase);
  const tanks = await desk.draft(-14, 'C1008', [['TNK-050-ST', 14]], { inDays: 12 });
  await desk.route(-14, tanks, 1, 'special_order', 'STELLING', 8);
  await desk.release(-14, tanks);
  for (const purchase of await desk.purchasesOf(tanks)) {
    await desk.send(-14, purchase);
    await desk.receive(-1, purchase);
  }
  // Drop shipments: not sent yet, under way, overdue notice, left.
  for (const [days, customer, state] of [
    [-1, 'C1020', 'draft'],
    [-6, 'C1006', 'sent'],
    [-13, 'C1023', 'sent'],
    [-12, 'C1005', 'left'],
  ] as const) {
    const order = await desk.draft(
      days,
      customer,
      [
        ['EXT-R9-EL', 1],
        ['STR-DBL-SS', 2],
      ],
      { inDays: 8 },
    );
    await desk.route(days, order, 1, 'drop_ship', 'STELLING', 1);
    await desk.release(days, order);
    for (const purchase of state === 'draft' ? [] : await desk.purchasesOf(order)) {
      await desk.send(days, purchase);
      if (state === 'left') await desk.despatch(-3, purchase, 'ST-5530187');
    }
  }
  // One line over two ways: what is on hand now, the rest shipped by the supplier.
  const split = await desk.draft(-2, 'C1008', [['JAR-454-RD', 75, 'XTY']], { inDays: 6, requestKind: 'deliver_by' });
  await desk.route(-2, split, 1, 'drop_ship', 'TARNBECK', 480);
  await desk.release(-2, split);
  // A supplier slipped after promises were made: they are at risk now.
  const slipping = await desk.purchase(-10, 'CORVANE', 'MAR', 2, [['JKT-COT-L', 30]]);
  await desk.order(
    -6,
    'C1015',
    [
      ['JKT-COT-L', 40],
      ['GLV-LTH-10', 4],
    ],
    { inDays: 12, poNumber: 'DBC-2207' },
  );
  await desk.order(-5, 'C1024', [['JKT-COT-L', 5]], { inDays: 10 });
  await desk.slip(-1, slipping, 16, 'supplier: cloth came in late');
  const glass = await desk.purchase(-9, 'TARNBECK', 'OST', 3, [['JAR-042-HX', 960]]);
  await desk.order(-5, 'C1022', [['JAR-042-HX', 36, 'XTY']], { inDays: 9 });
  await desk.slip(-1, glass, 12, 'supplier: furnace repair');
  // A purchase that came short took the supply of a promise with it: it waits again.
  const lost = await desk.purchase(-9, 'PENNARD', 'QUI', 2, [['FRK-UNC-1', 200]]);
  const forks = await desk.order(-4, 'C1012', [['FRK-UNC-1', 210]], { inDays: 8 });
  await desk.closeRest(-1, lost, 'supplier discontinued it');
  // Part shipped, the rest owed; being picked; put back.
  const owed = await desk.order(
    -7,
    'C1002',
    [
      ['FRM-DN-4', 12, 'XBX'],
      ['NAI-GMP-500', 10],
    ],
    { inDays: 3 },
  );
  await desk.pick(-5, owed, true, 0.5);
  const picking = await desk.order(
    -2,
    'C1021',
    [
      ['FED-TOP-4', 8],
      ['ENT-RED-N', 10],
    ],
    { inDays: 2 },
  );
  await desk.pick(-1, picking, false);
  const another = await desk.order(-2, 'C1014', [['JAR-227-HX', 10, 'XTY']], { inDays: 2 });
  await desk.pick(-1, another, false);
  const back = await desk.order(-3, 'C1016', [['WAX-BLK-1', 6]], { inDays: 3 });
  await desk.pick(-2, back, false);
  await desk.putBack(-1, back, 'box damaged, to be packed anew');
  // Complete orders that wait for their last line.
  await desk.order(
    -4,
    'C1003',
    [
      ['BOD-N10-PN', 6],
      ['SUP-N10-CD', 44],
      ['FLR-N10-OM', 6],
    ],
    { inDays: 5, poNumber: 'GL-90117', requestKind: 'deliver_by' },
  );
  await desk.order(
    -3,
    'C1019',
    [
      ['FRM-DN-4', 2, 'XBX'],
      ['SUT-VNT-L', 9],
    ],
    { inDays: 4 },
  );
  // Cancelled: a whole order, a part of a line, a special order whose purchase had been sent.
  const twice = await desk.order(
    -5,
    'C1007',
    [
      ['SMK-SS-10', 2],
      ['TOL-HIV-J', 12],
    ],
    { inDays: 7 },
  );
  await desk.cancel(-4, twice, null, null, 'duplicate');
  const fewer = await desk.order(-5, 'C1005', [['JAR-340-RD', 30, 'XTY']], { inDays: 9 });
  await desk.cancel(-3, fewer, 1, 10, 'customer_changed_mind');
  const colony = await desk.draft(-6, 'C1021', [['NUC-N05-BF', 2]], { inDays: 20 });
  await desk.route(-6, colony, 1, 'special_order', 'DRAYCOMBE', 2);
  await desk.release(-6, colony);
  for (const purchase of await desk.purchasesOf(colony)) await desk.send(-5, purchase);
  await desk.cancel(-2, colony, 1, null, 'too_late', 'cancel');
  // Drafts on the desk this morning.
  await desk.draft(
    0,
    'C1018',
    [
      ['FND-SN-T', 3, 'XBX'],
      ['FRM-SN-4', 4, 'XBX'],
    ],
    { inDays: 3, source: 'mail', poNumber: 'WB-81' },
  );
  await desk.draft(
    0,
    'C1020',
    [
      ['SUT-VNT-M', 14],
      ['GLV-LTH-9', 6],
    ],
    { inDays: 5 },
  );
  // Held this morning: a price below the floor that waits for the manager, and one that waits for the customer.
  const rival = await desk.draft(0, 'C1016', [['WAX-BLK-1', 12]], { inDays: 6, source: 'mail' });
  await desk.release(0, await desk.setPrice(0, rival, 1, '11.40', 'matches what a rival has offered'));
  const asked = await desk.draft(0, 'C1007', [['SUT-VNT-M', 6]], { inDays: 12 });
  await desk.hold(0, asked, 'the head teacher has to agree to the sizes');
  // Two contracts that hold for the same jars, and one that has too little left for all that is asked.
  await desk.draft(
    0,
    'C1001',
    [
      ['JAR-340-HX', 40, 'XTY'],
      ['LID-063-GD', 960],
      ['FEE-SYR-14', 8],
    ],
    { inDays: 6, poNumber: 'WH-8850' },
  );
  await desk.draft(0, 'C1011', [['FND-DN-W', 6, 'XBX']], { inDays: 8, poNumber: 'HX/318' });
  // The angry call: Abbot’s Orchard waits for the purchase while later plans of others rest on what is on the shelf.
  await desk.purchase(-8, 'STELLING', 'MAR', 15, [['EXT-T4-MN', 8]]);
  await desk.stockUp(-7, [['EXT-T4-MN', 'MAR', 8]]);
  await desk.order(-6, 'C1010', [['EXT-T4-MN', 4]], { inDays: 10, poNumber: 'FEN-0312', shipComplete: false });
  await desk.order(-5, 'C1023', [['EXT-T4-MN', 3]], { inDays: 9, poNumber: 'VAP-118' });
  await desk.order(-5, 'C1005', [['EXT-T4-MN', 2]], { inDays: 8 });
  await desk.order(-4, 'C1021', [['EXT-T4-MN', 3]], { inDays: 5, poNumber: 'ABB-7' });
  // A promise moved for another order yesterday: the customers it was taken from are still to be told.
  await desk.purchase(-8, 'ORRINGTON', 'QUI', 8, [['STD-N10-PN', 60]]);
  await desk.order(-5, 'C1012', [['STD-N10-PN', 40]], { inDays: 9 });
  const urgent = await desk.order(-3, 'C1002', [['STD-N10-PN', 12]], { inDays: 4 });
  await desk.putInClass(-1, urgent, 1, 'their own customer is waiting');
  // Goods on their way between warehouses, hives being put together, and a customer who is asked by phone.
  await desk.transfer(-1, 'MAR', 'OST', 'TOL-HIV-J', 12, true);
  await desk.transfer(0, 'QUI', 'MAR', 'BKT-030-PL', 10, false);
  await desk.assemble(0, 'OST', 'BRD-N10-CD', 2);
  await desk.ask(0, forks, 1, 'The forks are no longer made. May we leave out those that are missing?', 3);
  // Suppliers are told by mail, some of them by files. One has answered this morning: not on the day that two orders rest on.
  await desk.tellSuppliers(['TARNBECK', 'STELLING', 'MELLISH', 'PENNARD']);
  const fondant = await desk.purchase(-2, 'MELLISH', 'QUI', 6, [['FEE-FON-25', 120]]);
  await desk.order(-1, 'C1002', [['FEE-FON-25', 40]], { inDays: 8, poNumber: 'SB-1120' });
  await desk.order(-1, 'C1008', [['FEE-FON-25', 24]], { inDays: 9 });
  await desk.answer(0, fondant, 16, 'our boiler is being mended');
  // The last ten of an item: two customers ring for them today.
  await desk.stockUp(-1, [['EXT-T4-MN', 'QUI', 1]]);
}

main().catch((error: unknown) => {
  process.stderr.write(`The demo could not be loaded: ${error instanceof Error ? (error.stack ?? error.message) : String(error)}\n`);
  process.exit(1);
});
