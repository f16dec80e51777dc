import { expect, test } from '@playwright/test';
import { another, choose, gloss, line, quickLine, startOrder, typeLine } from './desk';

test('two coordinators want the last of an item: one gets it, the other sees the truth without reloading', async ({ browser }) => {
  const [ida, sam] = [await another(browser, 'ida'), await another(browser, 'sam')];
  const stock = (await (await ida.request.get('/api/items/CMB-CUT-25')).json()) as { pools: { warehouse: string; available: string }[] };
  const last = Number(stock.pools.find((pool) => pool.warehouse === 'MAR')!.available);
  expect(last).toBeGreaterThan(10);

  // All but ten go to an order before; then both want ten.
  await startOrder(ida, 'C1004', 'Thornby');
  await typeLine(ida, `cmb ${last - 10}`, 'CMB-CUT-25');
  await ida.keyboard.press('Control+Enter');
  await expect(ida.getByRole('button', { name: /Change priority/ })).toBeVisible();

  await startOrder(ida, 'C1021', 'Abbot');
  await startOrder(sam, 'C1013', 'Ravensway');
  for (const page of [ida, sam]) {
    await typeLine(page, 'cmb 10', 'CMB-CUT-25');
    await expect(line(page, 1)).toContainText('covered');
  }
  // Sam is typing another line while Ida releases.
  await sam.keyboard.type('tol 3');
  await ida.keyboard.press('Control+Enter');
  await expect(ida.getByRole('button', { name: /Change priority/ })).toBeVisible();

  await expect(line(sam, 1)).toContainText('10 backordered');
  await expect(quickLine(sam)).toHaveValue('tol 3');
  await sam.keyboard.press('Enter');
  await expect(quickLine(sam)).toHaveValue('');
  await sam.keyboard.press('Control+Enter');
  await expect(sam.getByRole('alert')).toContainText('10 are backordered and have no route');
  await sam.keyboard.press('ArrowUp');
  await sam.keyboard.press('ArrowUp');
  await expect(gloss(sam)).toContainText('I have no day yet for the 10');

  // Ida's customer rings off again: the ten are free, and Sam sees that too.
  await line(ida, 1).focus();
  await ida.keyboard.press('x');
  await choose(ida, 'Reason', 'duplicate');
  await expect(gloss(ida).getByText('What it frees')).toBeVisible();
  await ida.keyboard.press('Control+Enter');
  await expect(line(sam, 1)).toContainText('covered');
});
