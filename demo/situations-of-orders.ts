import type { OrderView } from '@nockwright/contract/orders';
import type { Desk } from './desk/desk';

/** Orders that have left in part, are being picked, or wait to be complete. */
export async function partsAndPicks(desk: Desk) {
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
}

/** What was cancelled: an order, a part of a line, a special order after its purchase was sent. */
export async function cancellations(desk: Desk) {
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
}

/** What lies on the desk this morning: drafts, holds, contracts that compete. */
export async function morningDrafts(desk: Desk) {
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
}

/** Goods that several customers are promised, and who was moved for whom. */
export async function contestedGoods(desk: Desk) {
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
}

/** Goods moved and put together, a customer who is asked, and what a supplier answers. */
export async function insideAndAnswers(desk: Desk, forks: OrderView) {
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
