import { expect, test } from '@playwright/test';
import { choose, gloss, leaveFields, logIn, movers } from './desk';

test('a supplier slips: who is hurt is seen before it is done, and the screens follow', async ({ page, browser }) => {
  await logIn(page);
  await page.goto('/supply?q=JAR-340-HX');
  const row = page.getByRole('table', { name: 'Purchase orders' }).locator('tbody tr').first();
  await expect(row).toContainText('Tarnbeck Glass');
  await row.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Tarnbeck Glass');
  const address = page.url();

  // Another screen looks at the shortages meanwhile.
  const other = await (await browser.newContext({ storageState: await page.context().storageState() })).newPage();
  await other.goto('/shortages');
  const shortages = other.getByRole('table', { name: 'Shortages' }).locator('tbody tr');
  await expect(shortages.first()).toContainText('/');
  const before = await shortages.filter({ hasText: 'JAR-340-HX' }).count();

  await page.keyboard.press('d');
  await expect(page.getByLabel('Now expected')).toBeFocused();
  await page.keyboard.type('31 april');
  await expect(page.getByText('no day: type fri')).toBeVisible();
  await page.keyboard.press('Control+a');
  await page.keyboard.type('30 mar');
  await page.keyboard.press('Tab');
  await expect(gloss(page)).toContainText('1 promise to 1 customer moves later: the worst by 15 days');
  await expect(gloss(page)).toContainText('Wether Hill Honey Co-operative');
  await expect(gloss(page)).toContainText('will leave on Wednesday the 31st of March instead');

  // Escape leaves all as it was.
  await page.keyboard.press('Escape');
  await expect(page.getByRole('table', { name: 'Lines of the purchase order' })).toContainText('Mon 15 Mar');

  await leaveFields(page);
  await page.keyboard.press('d');
  await expect(page.getByLabel('Now expected')).toBeFocused();
  await page.keyboard.type('30 mar');
  await page.getByLabel('Why (for the history)').fill('furnace repair');
  await expect(gloss(page)).toContainText('moves later');
  // Only recorded, the promise stands as told and is at risk from now on.
  await page.getByRole('button', { name: 'Save only: promises at risk' }).click();
  await expect(page.getByRole('table', { name: 'Lines of the purchase order' })).toContainText('Tue 30 Mar');
  await expect(gloss(page)).toContainText('furnace repair');
  await expect(shortages.filter({ hasText: 'JAR-340-HX' })).toHaveCount(before + 1);

  // Received after all: more than was awaited is seen for what it is; less is named with whom it is for.
  await page.goto(address);
  await page.getByRole('button', { name: /Receive/ }).waitFor();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByLabel('Scan a label')).toBeFocused();
  await leaveFields(page);
  await page.keyboard.press('a');
  const line = (item: string) => page.getByRole('article').filter({ hasText: item });
  const effect = page.getByRole('complementary');
  await line('JAR-340-HX').getByLabel('Good quantity').fill('5000');
  await expect(effect).toContainText('JAR-340-HX: 5000 of 4320, 680 over');
  await line('JAR-340-HX').getByLabel('Good quantity').fill('2000');
  await expect(effect).toContainText('JAR-340-HX: 2000 of 4320, 2320 short');
  for (const item of ['LID-063-GD', 'JAR-454-RD']) await page.getByRole('button', { name: `Remove: ${item}` }).click();
  await expect(effect.getByRole('status')).toBeVisible();
  await expect(effect.locator('[aria-busy="true"]')).toHaveCount(0);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('status').filter({ hasText: 'keep at the dock' })).toContainText('Wether Hill');
  await expect(shortages.filter({ hasText: 'JAR-340-HX' })).toHaveCount(before);
});

test('a supplier sends less: the promise is moved, the customer is told, and the list of calls is empty again', async ({ page }) => {
  await logIn(page);
  await page.goto('/supply?q=JAR-454-RD');
  const row = page.getByRole('table', { name: 'Purchase orders' }).locator('tbody tr').first();
  await expect(row).toContainText('Tarnbeck Glass');
  await row.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('P7601');
  await page.getByRole('table', { name: 'Lines of the purchase order' }).locator('tbody tr').nth(1).focus();
  await page.keyboard.press('d');
  await expect(gloss(page)).toContainText('Line 2, LID-063-GD');
  await page.getByLabel('Still expected (each)').fill('1000');
  await expect(movers(page)).toContainText(/848 LID-063-GD\s*Tue 16 Mar\s*backordered\s*no supply/);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('table', { name: 'Lines of the purchase order' })).toContainText('1,000');

  await page.goto('/calls');
  const call = page.getByRole('table', { name: 'Calls' }).locator('tbody tr').filter({ hasText: 'LID-063-GD' });
  await expect(call).toContainText('The 848 LID-063-GD we promised for Tuesday the 16th have lost their supply');
  await call.focus();
  await page.keyboard.press('Enter');
  await expect(call).toHaveCount(0);
});

test('a purchase to stock is made, checked and sent; then its goods can be promised', async ({ page }) => {
  await logIn(page);
  await page.goto('/supply/new');
  await choose(page, 'Supplier', 'Pennard');
  await choose(page, 'For warehouse', 'Marrowby');
  await page.getByLabel('Item of line 1').fill('jar-340-hx');
  await page.getByLabel('Quantity of line 1').fill('10');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('alert')).toContainText('PENNARD does not sell JAR-340-HX');
  await page.getByLabel('Item of line 1').fill('MRK-PEN-5');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('draft');
  await leaveFields(page);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('sent');
});
