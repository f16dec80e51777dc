import { readFileSync } from 'node:fs';
import { expect, test } from '@playwright/test';
import { leaveFields, logIn } from './desk';

test('the list is sorted, its columns chosen and kept as a view; several orders are held at once, and each says what became of it', async ({ page }) => {
  await logIn(page);
  const table = page.getByRole('table', { name: 'Orders' });
  const rows = table.locator('tbody tr');

  await test.step('a heading sorts, the address keeps it', async () => {
    await page.getByRole('button', { name: 'Sort by Net' }).press('Enter');
    await expect(page).toHaveURL(/sort=amount/);
    await expect(table.getByRole('columnheader', { name: 'Sort by Net' })).toHaveAttribute('aria-sort', 'descending');
    const amounts = async () => (await rows.locator('td.figure:nth-child(6)').allInnerTexts()).map((text) => Number(text.replaceAll(',', '')));
    // Read once each time: the sorted rows may come while it is looked at.
    await expect(async () => {
      const shown = await amounts();
      expect(shown.length).toBeGreaterThan(1);
      expect(shown).toEqual([...shown].sort((a, b) => b - a));
    }).toPass();
  });

  await test.step('a column more, kept under a name, is there again', async () => {
    await page.getByRole('button', { name: 'View' }).press('Enter');
    await page.getByRole('checkbox', { name: 'Promised' }).press('Space');
    await expect(page).toHaveURL(/cols=[^&]*promised/);
    await page.getByRole('textbox', { name: 'Keep this view as' }).focus();
    await page.keyboard.type('big ones');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('button', { name: 'big ones', exact: true })).toBeVisible();
    await page.goto('/orders');
    await expect(table.getByRole('columnheader', { name: 'Promised' })).toHaveCount(0);
    await page.getByRole('button', { name: 'View' }).press('Enter');
    await page.getByRole('button', { name: 'big ones', exact: true }).press('Enter');
    await expect(page).toHaveURL(/sort=amount/);
    await expect(table.getByRole('columnheader', { name: 'Sort by Promised' })).toBeVisible();
    await page.keyboard.press('Escape');
  });

  await test.step('rows are as high as the window over them counts on', async () => {
    await page.goto('/orders?state=all');
    const [first, second] = [await rows.nth(0).boundingBox(), await rows.nth(1).boundingBox()];
    expect(second!.y - first!.y).toBe(29);
    await page.goto('/orders?state=all&cols=customer,net,state');
    const [third, fourth] = [await rows.nth(0).boundingBox(), await rows.nth(1).boundingBox()];
    expect(fourth!.y - third!.y).toBe(29);
  });

  await test.step('scrolled to its end it has every order', async () => {
    const { rows: all, next } = (await (await page.request.get('/api/orders?state=all')).json()) as { rows: { id: number }[]; next: string | null };
    expect(next).not.toBeNull();
    const viewport = page.locator('cdk-virtual-scroll-viewport');
    await expect(async () => {
      await viewport.evaluate((element) => element.scrollTo(0, element.scrollHeight));
      await expect(page.getByText(/\d+ orders;/)).toBeVisible({ timeout: 500 });
    }).toPass();
    expect(Number((await page.getByText(/\d+ orders;/).innerText()).trim().split(' ')[0])).toBeGreaterThan(all.length);
    expect(await rows.count()).toBeLessThan(80);
  });

  await test.step('two are chosen by key and held; one that is no draft says so', async () => {
    await page.goto('/orders?state=draft');
    await expect(rows.first()).toBeVisible();
    await leaveFields(page);
    await page.keyboard.press('ArrowDown');
    await expect(rows.first()).toBeFocused();
    await page.keyboard.press('Shift+ArrowDown');
    await page.keyboard.press('Space');
    await expect(page.getByText('2 chosen')).toBeVisible();
    await page.keyboard.press('h');
    await page.keyboard.type('is it still wanted');
    await page.keyboard.press('Enter');
    await expect(page.getByText('2 held')).toBeVisible();
    await expect(rows.nth(0)).toContainText('held');
    await expect(rows.nth(1)).toContainText('held');
    await page.goto('/orders?state=open&q=ABB-7');
    await expect(rows).toHaveCount(1);
    await leaveFields(page);
    await page.keyboard.press('Control+a');
    await expect(page.getByText('1 chosen')).toBeVisible();
    await page.keyboard.press('r');
    await expect(page.getByText('0 released')).toBeVisible();
    await expect(page.getByText(/not: .*is released: only a draft/)).toBeVisible();
  });

  await test.step('what is chosen is exported', async () => {
    await page.goto('/orders?state=open&q=ABB-7');
    await expect(rows).toHaveCount(1);
    await rows.first().focus();
    await page.keyboard.press('Space');
    const download = page.waitForEvent('download');
    await page.getByRole('link', { name: /Export/ }).click();
    expect((await download).suggestedFilename()).toBe('orders.csv');
    // Without its mark (Unicode Standard, section 23.8) many spreadsheets read the letters of UTF-8 as others.
    const bytes = readFileSync(await (await download).path());
    expect([...bytes.subarray(0, 3)]).toEqual([0xef, 0xbb, 0xbf]);
    expect(bytes.toString('utf8')).toMatch(/^\ufefforder,kind,customer,[^]*ABB-7/);
  });
});

test('any list is sorted by a head, keeps it in its address, shows the columns that are chosen, and leaves as a file', async ({ page }) => {
  await logIn(page);
  await page.goto('/supply?state=all');
  const first = page.getByRole('table', { name: 'Purchase orders' }).locator('tbody tr').first();
  await expect(first).toBeVisible();
  const values = async () => (await page.locator('tbody tr td:last-child').allTextContents()).map((text) => Number(text.replaceAll(',', '')));
  await page.getByRole('button', { name: 'Sort by Value' }).press('Enter');
  await expect(page).toHaveURL(/sort=value/);
  await expect.poll(async () => [...(await values())].sort((a, b) => a - b).join() === (await values()).join()).toBe(true);
  await page.reload();
  await expect(page.getByRole('columnheader', { name: 'Sort by Value' })).toHaveAttribute('aria-sort', 'ascending');

  await page.getByRole('button', { name: 'Columns and export of purchase orders' }).press('Enter');
  await page.getByRole('checkbox', { name: 'Ships to' }).press(' ');
  await expect(page).toHaveURL(/cols=/);
  await page.keyboard.press('Escape');
  await expect(page.getByRole('columnheader', { name: 'Ships to' })).toHaveCount(0);

  await first.focus();
  const file = page.waitForEvent('download');
  await page.keyboard.press('Control+e');
  const download = await file;
  expect(download.suggestedFilename()).toBe('purchase-orders.csv');
  const rows = readFileSync(await download.path(), 'utf8')
    .trimEnd()
    .split('\r\n');
  expect(rows[0]).toBe('\ufeffPurchase order,Supplier,State,Expected,Open lines,Value');
  expect(rows).toHaveLength((await page.locator('tbody tr').count()) + 1);
});
