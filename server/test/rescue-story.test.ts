import { shortageRoutes } from '@nockwright/contract/shortages';
import { supplyRoutes } from '@nockwright/contract/supply';
import { worklistRoutes } from '@nockwright/contract/worklist';
import { brokenInvariants } from './invariants';
import { TestDesk } from './test-desk';

let desk: TestDesk;
beforeEach(async () => (desk = await TestDesk.open()));
afterEach(async () => {
  expect(await brokenInvariants(desk.db)).toEqual([]);
  await desk.close();
});

const calls = async () => (await desk.call('ida', worklistRoutes.listCalls)).calls.map(({ number, told, holds, say }) => ({ number, told, holds, say }));

/** Two orders promised from a purchase that slips by two weeks; promises stand as told, at risk. */
async function slipped() {
  const purchase = await desk.purchase('LID', '100', '2027-03-12');
  const first = await desk.order([['LID', '60']]);
  const second = await desk.order([['LID', '40']], 'ida', 2);
  const { version } = await desk.readPurchase(purchase.id);
  await desk.call('ida', supplyRoutes.reschedule, {
    params: { purchase: purchase.id, line: purchase.line },
    body: { version, expectedDay: '2027-03-26', note: 'furnace repair' },
  });
  expect(await calls()).toEqual([]);
  return { purchase, first, second };
}

test('a supplier slips two weeks: who is routed later than they were told is to be called, with the days they have and will have', async () => {
  const { first, second } = await slipped();
  // Bought anew of the supplier it comes a day after it was told; the second is served from another warehouse, in time.
  await desk.take(first, 1, { kind: 'special_order', supplier: 'SUP', quantity: '60' });
  expect(await calls()).toEqual([
    {
      number: first.number,
      told: [{ day: '2027-03-15', quantity: '60' }],
      holds: [{ day: '2027-03-17', quantity: '60' }],
      say: 'The 60 LID we promised for Monday the 15th will leave on Wednesday the 17th instead.',
    },
  ]);
  await desk.stockUp('LID', '40', 'QUI');
  await desk.take(second, 1, { kind: 'transfer', warehouse: 'QUI', quantity: '40' });
  expect((await calls()).map((call) => call.number)).toEqual([first.number]);
  expect(await desk.call('ida', shortageRoutes.listShortages)).toEqual([]);
});

test('what the customer gives up is missed by nobody; what is only later of the rest is told', async () => {
  const { first } = await slipped();
  const cut = { kind: 'cut', quantity: '20' } as const;
  await desk.take(first, 1, cut, { kind: 'special_order', supplier: 'SUP', quantity: '40' });
  expect((await calls()).map((call) => call.holds)).toEqual([[{ day: '2027-03-17', quantity: '40' }]]);
});

test('a drop shipment that leaves as soon as was told needs no call', async () => {
  const { first } = await slipped();
  await desk.db.updateTable('supplier').set({ lead_days: 1 }).where('code', '=', 'SUP').execute();
  await desk.take(first, 1, { kind: 'drop_ship', supplier: 'SUP', quantity: '60' });
  expect(await calls()).toEqual([]);
});

test('a call that is still to be made is made with the newest days', async () => {
  const { first } = await slipped();
  await desk.take(first, 1, { kind: 'special_order', supplier: 'SUP', quantity: '60' });
  expect(await calls()).toHaveLength(1);
  await desk.stockUp('LID', '60', 'QUI');
  const routed = await desk.read(first);
  const back = await desk.undo(routed, 1, 0, 'cancel');
  await desk.take(back, 1, { kind: 'transfer', warehouse: 'QUI', quantity: '60' });
  expect(await calls()).toMatchObject([
    {
      told: [{ day: '2027-03-15', quantity: '60' }],
      holds: [{ day: '2027-03-11', quantity: '60' }],
      say: 'We told you 60 on Mon 15 Mar; it is now 60 on Thu 11 Mar.',
    },
  ]);
  expect((await desk.read(first)).lines[0]!.schedule.map((entry) => entry.day)).toEqual(['2027-03-11']);
});
