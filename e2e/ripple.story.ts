import { expect, test, type Page } from '@playwright/test';
import { another, gloss, leaveFields, line, logIn, quickLine } from './desk';

/** Logs in and finds the order of the customer who rings, by keyboard. */
async function findAbbot(page: Page): Promise<void> {
  await logIn(page);
  await leaveFields(page);
  await page.keyboard.press('/');
  await page.keyboard.type('ABB-7');
  await expect(page.getByRole('option').first()).toContainText('Abbot’s Orchard');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Abbot’s Orchard');
}

const queue = (page: Page) => page.getByRole('table', { name: 'Queue' }).locator('tbody tr');

test('an angry customer rings: their order is found, moved up by key, and whoever is hurt is named with what to say', async ({ page }) => {
  await findAbbot(page);
  await expect(line(page, 1)).toContainText('late');
  await line(page, 1).focus();
  // To the point: another story may receive from the same supplier meanwhile.
  await expect(gloss(page)).toContainText(/Confidence 8[0-3] %; 90 % by Tue 30 Mar\. Stelling Stainless, by 2\d receipts/);

  // Ahead of Fennimore: the list of the queue opens and is answered by key.
  await page.keyboard.press('u');
  const ahead = page.getByRole('combobox', { name: /^Ahead of, in the queue for EXT-T4-MN/ });
  await expect(ahead).toBeFocused();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('option', { name: /Fennimore Estates/ })).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(gloss(page)).toContainText('1 promise to 1 customer moves later: the worst by 13 days, worth 572.00 EUR. 1 promise moves earlier.');
  await expect(gloss(page)).toContainText('Pipistrelle Farm Shop');
  await expect(gloss(page)).toContainText('The 2 EXT-T4-MN we promised for Friday the 12th will leave on Thursday the 25th of March instead.');

  // Escape leaves all as it was.
  await page.keyboard.press('Escape');
  await expect(line(page, 1)).toContainText('late');
  await expect(page.getByRole('link', { name: /^Calls/ })).toHaveText(/Calls \d+/);
  const calls = Number(/\d+/.exec((await page.getByRole('link', { name: /^Calls/ }).textContent())!)![0]);

  await leaveFields(page);
  await page.keyboard.press('u');
  await expect(ahead).toBeFocused();
  await page.keyboard.press('Enter');
  // Who has their turn is fetched.
  await expect(page.getByRole('option').nth(1)).toBeVisible();
  await page.keyboard.press('ArrowDown');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Move 2 promises' })).toBeVisible();
  await page.getByLabel('Why (for the history)').fill('their season begins on Thursday');
  await page.keyboard.press('Control+Enter');
  await expect(line(page, 1)).toContainText('covered');

  // Two calls are to be made: theirs, with the good news, and the one that hurts.
  await expect(page.getByRole('link', { name: /^Calls/ })).toHaveText(`Calls ${calls + 2}`);
  await page.goto('/calls');
  const rows = page.getByRole('table', { name: 'Calls' }).locator('tbody tr');
  const hurt = rows.filter({ hasText: 'Pipistrelle Farm Shop' });
  await expect(hurt).toContainText('01632 960155');
  await expect(hurt).toContainText('The 2 EXT-T4-MN we promised for Friday the 12th will leave on Thursday the 25th of March instead.');
  await expect(hurt).toContainText('their season begins on Thursday');
  await expect(rows.filter({ hasText: 'Abbot’s Orchard' })).toContainText('can leave on Wednesday the 10th already');
  await hurt.focus();
  await page.keyboard.press('Enter');
  await expect(hurt).toHaveCount(0);
  await expect(page.getByRole('link', { name: /^Calls/ })).toHaveText(`Calls ${calls + 1}`);
});

test('keys as fast as they come: a list that has just closed does not take the Escape, a form that has just closed not the next letter', async ({ page }) => {
  await findAbbot(page);
  await line(page, 1).focus();
  await page.keyboard.press('u');
  const form = page.getByRole('heading', { name: /^Move order/ });
  await page.keyboard.press('Enter');
  await expect(page.getByRole('option').nth(1)).toBeVisible();
  await page.evaluate(() => {
    const press = (key: string, keyCode: number) => {
      const event = new KeyboardEvent('keydown', { key, keyCode, bubbles: true, cancelable: true });
      (document.activeElement ?? document.body).dispatchEvent(event);
    };
    press('ArrowDown', 40);
    press('Enter', 13);
    press('Escape', 27);
  });
  await expect(form).toHaveCount(0);
  await page.evaluate(() => {
    for (const key of ['u', 'Escape', 'u'])
      (document.activeElement ?? document.body).dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true }));
  });
  await expect(form).toBeVisible();
});

test('on the item’s page the queue is moved by key and by pointer, and nothing is done before it is agreed to', async ({ page, browser }) => {
  await logIn(page);
  await page.goto('/items/EXT-T4-MN');
  await expect(queue(page)).toHaveCount(4);
  const before = await queue(page).allTextContents();
  await queue(page).last().focus();
  await page.keyboard.press('Alt+ArrowUp');
  await expect(gloss(page)).toContainText('Ahead of');
  await page.keyboard.press('Escape');
  expect(await queue(page).allTextContents()).toEqual(before);

  // By pointer: the last row is dragged to the top.
  const [from, to] = [(await queue(page).last().boundingBox())!, (await queue(page).first().boundingBox())!];
  await page.mouse.move(from.x + 200, from.y + from.height / 2);
  await page.mouse.down();
  await page.mouse.move(from.x + 200, from.y - 10, { steps: 4 });
  await page.mouse.move(to.x + 200, to.y + 6, { steps: 8 });
  await page.mouse.up();
  const customer = (await page
    .getByRole('heading', { level: 2 })
    .filter({ hasText: /^Order \d+/ })
    .textContent())!;
  expect(before.at(-1)).toContain(customer.split(', ')[1]);
  await expect(page.getByRole('button', { name: /Move order/ })).toBeVisible();
  await page.keyboard.press('Escape');

  // Who only picks may look, not move.
  const wil = await another(browser, 'wil');
  await wil.goto('/items/EXT-T4-MN');
  await expect(queue(wil)).toHaveCount(4);
  await expect(wil.getByRole('button', { name: /Move up/ })).toHaveCount(0);
});

test('the whole book is promised anew on the server, looked at, and accepted in part', async ({ page }) => {
  await logIn(page);
  await page.goto('/plan');
  await expect(page.getByRole('heading', { name: 'Re-promise all orders' })).toBeVisible();
  await page.keyboard.press('Control+Enter');
  const movers = page.getByRole('table', { name: 'Promises that would move' }).locator('tbody tr:not(.heading)');
  await expect(movers.first()).toBeVisible();
  await expect(page.getByRole('table', { name: 'Lateness before and after' })).toContainText('All orders');
  const count = await movers.count();
  await movers.first().focus();
  await page.keyboard.press(' ');
  await expect(gloss(page)).toContainText('If only this promise moves');
  await expect(gloss(page)).toContainText('moves earlier');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText(/promises? ha(s|ve) moved\. The calls are noted\./)).toBeVisible();
  await expect(page.getByText('Accepted.')).toBeVisible();

  // What has moved is where its turn puts it: a new run finds less to move.
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('Accepted.')).toHaveCount(0);
  await expect.poll(async () => movers.count()).toBeLessThan(count);
});

test('a line is tried in the browser: key strokes are answered while the network is away', async ({ page, context }) => {
  await logIn(page);
  const { rows } = (await (await page.request.get('/api/orders?search=WB-81')).json()) as { rows: { id: number }[] };
  await page.goto(`/orders/${rows[0]!.id}`);
  const preview = page.getByRole('table', { name: 'Lines of the order' }).locator('tr.preview');
  await expect(quickLine(page)).toBeFocused();
  await page.keyboard.type('jar-227-hx 2');
  await expect(preview).toContainText('covered');
  await context.setOffline(true);
  await page.keyboard.type('0');
  await expect(preview.locator('td').nth(2)).toHaveText(/20/);
  await page.keyboard.type('000');
  await expect(preview).toContainText('backordered');
  await context.setOffline(false);
});
