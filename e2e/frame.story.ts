import AxeBuilder from '@axe-core/playwright';
import { expect, test, type Page } from '@playwright/test';
import { leaveFields, logIn } from './desk';
import { SCREENS } from './screens';

/** Tables that are wider than the sheet they stand on, by name: their last columns could not be read. */
const tooWide = (page: Page) =>
  page
    .locator('table')
    .evaluateAll((tables) =>
      tables
        .filter((table) => table.getBoundingClientRect().right > table.parentElement!.getBoundingClientRect().right + 1)
        .map((table) => table.getAttribute('aria-label')),
    );

/** What is right is told by its rule alone: of all that is on a screen that would be a long list. No screen has frames: legacy mode opens no page of its own. */
const look = (page: Page) => new AxeBuilder({ page }).options({ resultTypes: ['violations'] }).setLegacyMode();

// Some of them at a time: a story has its time, on a slow machine too.
const PARTS = 5;
for (let part = 0; part < PARTS; part++)
  test(`every screen fits and meets WCAG 2.2 AA as far as a program can tell, in light and in dark, ${part + 1} of ${PARTS}`, async ({ page }) => {
    await page.emulateMedia({ colorScheme: 'light', reducedMotion: 'reduce' });
    await logIn(page, 'mona');
    const order = ((await (await page.request.get('/api/orders?search=WH-8841')).json()) as { rows: { id: number }[] }).rows[0]!.id;
    const quote = ((await (await page.request.get('/api/orders?state=quote&search=sable')).json()) as { rows: { id: number }[] }).rows[0]!.id;
    for (const screen of [...SCREENS, `/orders/${order}`, `/orders/${quote}`].filter((_, at) => at % PARTS === part)) {
      await page.goto(screen);
      await expect(page.getByRole('heading').first()).toBeVisible();
      const light = await look(page).withTags(['wcag2a', 'wcag2aa', 'wcag21a', 'wcag21aa', 'wcag22aa']).analyze();
      expect(await tooWide(page)).toEqual([]);
      // Only the colours are others then.
      await page.emulateMedia({ colorScheme: 'dark', reducedMotion: 'reduce' });
      const dark = await look(page).withRules(['color-contrast']).analyze();
      await page.emulateMedia({ colorScheme: 'light', reducedMotion: 'reduce' });
      for (const [colours, { violations, passes }] of Object.entries({ light, dark })) {
        // It looked at colours at all.
        expect(passes.map(({ id }) => id)).toContain('color-contrast');
        const places = (nodes: (typeof violations)[number]['nodes']) => nodes.map((node) => node.target.join(' ')).slice(0, 3);
        expect(violations.map(({ id, nodes }) => `${screen}, ${colours}: ${id} at ${places(nodes).join(' | ')}`)).toEqual([]);
      }
    }
  });

test('one field finds anything, the keys of a screen are listed, and the address keeps a list as it was', async ({ page }) => {
  await logIn(page);
  await leaveFields(page);
  await page.keyboard.press('/');
  await expect(page.getByLabel('Find any order, purchase, item, customer, supplier or serial number')).toBeFocused();
  await page.keyboard.type('p7601');
  await expect(page.getByRole('option').first()).toContainText('Purchase P7601');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('P7601');
  await page.keyboard.press('?');
  await expect(page.getByRole('dialog', { name: 'Keys of this screen' })).toContainText('another day, quantity or cost for the line');
  await page.keyboard.press('Escape');
  await expect(page.getByRole('dialog')).toHaveCount(0);

  await page.goto('/orders');
  await page.getByLabel('Filter orders').fill('hexcombe');
  await expect(page).toHaveURL(/q=hexcombe/);
  await page.reload();
  await expect(page.getByLabel('Filter orders')).toHaveValue('hexcombe');
  await expect(page.getByRole('table', { name: 'Orders' }).locator('tbody tr').first()).toContainText('Hexcombe');
});

test('what may not be done is said in words, and who is not logged in sees nothing', async ({ page }) => {
  await page.goto('/items');
  await expect(page.getByRole('button', { name: 'Log in' })).toBeVisible();
  await page.getByLabel('Name').fill('ida');
  await page.getByLabel('Password').fill('not it');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('alert')).toContainText('Name or password is wrong');
  await page.getByLabel('Password').fill('honey-and-wax');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Items' })).toBeVisible();
});

test('the warehouse picks and receives on a phone', async ({ browser }) => {
  const page = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await logIn(page, 'wil');
  await page.goto('/shipping');
  const ready = page.getByRole('region', { name: 'Ready to pick' }).getByRole('article').first();
  await ready.focus();
  await expect(ready.getByRole('button', { name: /Start the pick/ })).toBeInViewport();
  expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
});
