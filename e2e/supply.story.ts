import { expect, test } from '@playwright/test';
import { choose, gloss, leaveFields, logIn } from './desk';

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
  await expect(gloss(page)).toContainText('Promises it breaks');
  await expect(gloss(page)).toContainText('Wether Hill Honey Co-operative');
  await expect(gloss(page)).toContainText('will leave on Wednesday the 31st of March instead');

  // Escape leaves all as it was.
  await page.keyboard.press('Escape');
  await expect(page.getByRole('table', { name: 'Lines of the purchase order' })).toContainText('Mon 15 Mar');

  await leaveFields(page);
  await page.keyboard.press('d');
  await expect(page.getByLabel('Now expected')).toBeFocused();
  await page.keyboard.type('30 mar');
  await page.keyboard.press('Tab');
  await page.keyboard.type('furnace repair');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('table', { name: 'Lines of the purchase order' })).toContainText('Tue 30 Mar');
  await expect(gloss(page)).toContainText('furnace repair');
  await expect(shortages.filter({ hasText: 'JAR-340-HX' })).toHaveCount(before + 1);

  // Received after all, in part: whom it is for is named at once.
  await page.goto(address);
  await page.getByRole('button', { name: /Receive/ }).waitFor();
  await page.keyboard.press('Control+Enter');
  await page.getByLabel('Quantity of JAR-340-HX').fill('99999');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('alert')).toContainText('more than the 4320 awaited');
  await page.getByLabel('Quantity of JAR-340-HX').fill('2000');
  await page.getByLabel('Quantity of LID-063-GD').fill('');
  await page.getByLabel('Quantity of JAR-454-RD').fill('');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('Leave at the dock: these are owed')).toBeVisible();
  await expect(page.getByRole('status').filter({ hasText: 'Leave at the dock' })).toContainText('Wether Hill');
  await expect(shortages.filter({ hasText: 'JAR-340-HX' })).toHaveCount(before);
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
