import { expect, test, type Page } from '@playwright/test';
import { ask, gloss, leaveFields, logIn, send, movers } from './desk';

const ITEM = 'BKT-030-PL';

interface Order {
  readonly id: number;
  readonly number: string | null;
  readonly version: number;
  readonly lines: readonly {
    readonly id: number;
    readonly uncovered: string;
    readonly waiting: string;
    readonly schedule: readonly { readonly day: string; readonly quantity: string; readonly arrives: string | null; readonly dropShip: boolean }[];
    readonly routes: readonly { readonly kind: string; readonly document: { readonly id: number; readonly number: string } | null }[];
  }[];
}

/** A released order of so many more than there are at Marrowby; those are brought over from Quillhaven. */
async function broughtOver(page: Page, more: number): Promise<{ order: Order; transfer: number }> {
  const [customer] = await ask<{ id: number }[]>(page, '/customers?search=Cobbett');
  const { pools } = await ask<{ pools: { warehouse: string; available: string }[] }>(page, `/items/${ITEM}`);
  const there = Number(pools.find((pool) => pool.warehouse === 'MAR')!.available);
  let order = await send<Order>(page, '/orders', { customer: customer!.id });
  order = await send<Order>(page, `/orders/${order.id}`, { version: order.version, warehouse: 'MAR' }, 'PUT');
  order = await send<Order>(page, `/orders/${order.id}/lines`, { item: ITEM, quantity: String(there + more) });
  expect(order.lines[0]!.uncovered).toBe(String(more));
  const parts = [{ kind: 'transfer', warehouse: 'QUI', quantity: String(more) }];
  order = await send<Order>(page, `/orders/${order.id}/lines/${order.lines[0]!.id}/routes`, { parts });
  const seen = order.lines.map(({ id, schedule, uncovered }) => ({ line: id, schedule: schedule.map(({ day, quantity }) => ({ day, quantity })), uncovered }));
  order = await send<Order>(page, `/orders/${order.id}/release`, { version: order.version, seen });
  return { order, transfer: order.lines[0]!.routes[0]!.document!.id };
}

test('a transfer is late: whom it hurts is seen before, and one act brings their goods another way', async ({ page }) => {
  await logIn(page);
  const { order, transfer } = await broughtOver(page, 7);
  await page.goto(`/supply/transfers/${transfer}`);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Quillhaven to Marrowby');
  await page.keyboard.press('d');
  await expect(page.getByLabel('Now expected')).toBeFocused();
  await page.keyboard.type('29 mar');
  await page.keyboard.press('Tab');
  await expect(gloss(page)).toContainText('1 promise to 1 customer moves later');
  await expect(movers(page)).toContainText(`${order.number}/1`);
  // Left as it is first: nothing has moved.
  await page.keyboard.press('Escape');
  await expect(gloss(page)).toContainText('committed at Quillhaven');
  await page.keyboard.press('d');
  await expect(page.getByLabel('Now expected')).toBeFocused();
  await page.keyboard.type('29 mar');
  await page.keyboard.press('Tab');
  await page.getByLabel('Why (for the history)').fill('no van before');
  await expect(gloss(page)).toContainText('moves later');
  await page.keyboard.press('Control+b');
  const board = page.getByRole('table', { name: 'Shortages' }).locator('tbody tr');
  await expect(board).toHaveCount(1);
  await expect(board).toContainText(`${order.number}/1`);
  await expect(gloss(page)).toContainText('from Quillhaven');
  await page.keyboard.press('Control+Enter');
  await expect(board).toHaveText(/Nothing|No /);
  const saved = await ask<Order>(page, `/orders/${order.id}`);
  expect(saved.lines[0]).toMatchObject({ waiting: '0' });
  expect(saved.lines[0]!.schedule.map((part) => part.arrives).filter(Boolean)).toEqual([]);
  // Nobody needs what would have come late: it stays where it is.
  await page.goto(`/supply/transfers/${transfer}`);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('cancelled');
  await expect(gloss(page)).toContainText('no van before');
});

test('a transfer comes short on a telephone: the desk sees who goes without, moves them, and has the call to make', async ({ page }) => {
  await logIn(page);
  const { order, transfer } = await broughtOver(page, 5);
  await page.setViewportSize({ width: 390, height: 800 });
  await page.goto(`/supply/transfers/${transfer}`);
  await page.getByRole('button', { name: 'Confirm shipment' }).click();
  const came = page.getByLabel(`Received now: ${ITEM}`);
  await came.fill('a few');
  await page.getByRole('button', { name: 'Receive goods' }).click();
  await expect(page.getByRole('alert')).toContainText(`${ITEM}: expected a quantity.`);
  await came.fill('3');
  await expect(gloss(page)).toContainText(`${ITEM}: 3 of 5, 2 short`);
  await gloss(page).getByLabel('close the remainder').check();
  await expect(movers(page)).toContainText(`${order.number}/1`);
  await expect(movers(page)).toContainText('no supply');
  await page.getByRole('button', { name: 'Receive goods' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('received');
  await page.setViewportSize({ width: 1280, height: 800 });
  const { calls } = await ask<{ calls: { number: string }[] }>(page, '/calls');
  expect(calls.map((call) => call.number)).toContain(order.number);
  // Whoever leaves first takes what is there: the two that are missing come to this order later, or are lost to one that leaves after it.
  expect((await ask<Order>(page, `/orders/${order.id}`)).lines[0]!.schedule[0]!.quantity).toBe('3');
});

test('what is put together is for fewer and later: components go back, and the desk sees it by key', async ({ page }) => {
  await logIn(page);
  const made = await send<{ id: number; number: string; version: number }>(page, '/assemblies', { item: 'BRD-N10-CD', warehouse: 'MAR', quantity: '2' });
  await page.goto(`/supply/assemblies/${made.id}`);
  await expect(page.getByRole('heading', { level: 1 })).toContainText(made.number);
  const components = page.getByRole('table', { name: 'Components' }).locator('tbody tr').first();
  await expect(components).toContainText('2');
  await page.keyboard.press('d');
  await expect(page.getByLabel('Now done by')).toBeFocused();
  await page.keyboard.type('+9');
  await page.keyboard.press('Tab');
  await page.keyboard.type('1');
  await expect(gloss(page)).toContainText('No promise moves later.');
  await page.keyboard.press('Control+Enter');
  await expect(gloss(page)).toContainText('1 to go, was 2');
  await leaveFields(page);
  await page.keyboard.press('k');
  await expect(page.getByRole('textbox', { name: 'Why' })).toBeFocused();
  await page.keyboard.press('Control+Enter');
  await expect(gloss(page).getByRole('alert')).toContainText('Why? The history keeps it.');
  await page.keyboard.type('not wanted after all');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('cancelled');
});
