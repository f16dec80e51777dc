import type { Desk } from './desk/desk';

/** Lines that ask for more than there is. */
export async function shortages(desk: Desk) {
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
}

/** Goods bought for one line, at every stage. */
export async function specialOrders(desk: Desk) {
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
}

/** Goods that suppliers ship themselves, at every stage. */
export async function dropShipments(desk: Desk) {
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
}

/** Supply that comes later or shorter than promises were made on. Gives the order that waits for goods nobody makes any more. */
export async function slippedSupply(desk: Desk) {
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
  return forks;
}
