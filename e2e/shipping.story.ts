import { expect, test, type Page } from '@playwright/test';
import { ask, leaveFields, logIn, startOrder, typeLine } from './desk';

interface Shipment {
  readonly id: number;
  readonly number: string;
  readonly consignment: number | null;
  readonly state: string;
}
interface Order {
  readonly id: number;
  readonly number: string;
  readonly shipments: readonly Shipment[];
}

/** An order over the telephone, released; gives its page's address. */
async function ordered(page: Page, lines: readonly (readonly [text: string, item: string])[]): Promise<Order> {
  await startOrder(page, 'C1018', 'Winterbourne');
  for (const [text, item] of lines) await typeLine(page, text, item);
  await leaveFields(page);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText(/\d{5}/);
  return ask<Order>(page, `/orders/${page.url().split('/').at(-1)!}`);
}

async function startPick(page: Page, number: string): Promise<void> {
  await page.goto(`/shipping?q=${number}`);
  const ready = page.getByRole('region', { name: 'Ready to pick' }).getByRole('article');
  await ready.first().focus();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('region', { name: 'Picks in progress' }).getByRole('article')).toHaveCount(1);
}

test('from the bin to the door: picked on a phone by scanning, short in one bin, packed by scanning, labelled, shipped, undone', async ({ browser, page }) => {
  await logIn(page);
  const order = await ordered(page, [
    ['smk-ss-10 4', 'SMK-SS-10'],
    ['qex-n10-wr 6', 'QEX-N10-WR'],
  ]);
  await startPick(page, order.number);
  const [shipment] = (await ask<Order>(page, `/orders/${order.id}`)).shipments;
  expect(shipment!.number).toBe(`${order.number}-1`);

  const phone = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await test.step('on the phone: a scan of other goods is refused, one of the goods picks them, what is short is reported in two taps', async () => {
    await logIn(phone, 'wil');
    await phone.goto(`/pick?warehouse=MAR&shipments=${shipment!.id}`);
    const next = phone.getByRole('article', { name: 'Next bin' });
    await expect(next).toBeVisible();
    const first = (await next.locator('.what .code').first().textContent())!.trim();
    const other = first === 'SMK-SS-10' ? 'QEX-N10-WR' : 'SMK-SS-10';
    await phone.getByLabel('Scan the bin or the goods').fill(other);
    await phone.keyboard.press('Enter');
    await expect(phone.getByRole('alert').filter({ hasText: `This is not ${first}` })).toBeVisible();
    await phone.getByLabel('Scan the bin or the goods').fill(first.toLowerCase());
    await phone.keyboard.press('Enter');
    await expect(next.locator('.what .code').first()).not.toHaveText(first);
    await phone.getByRole('button', { name: 'Report short' }).click();
    const quantity = Number((await next.locator('.much b').textContent())!.trim());
    await phone.getByLabel('Good quantity found').fill(String(quantity - 1));
    await phone.getByRole('button', { name: 'Missing' }).click();
    await expect(phone.getByRole('status').filter({ hasText: /instead|cannot be picked now/ })).toBeVisible();
    expect(await phone.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  });

  await test.step('at the bench: a carton, wrong goods refused in words, the rest packed as proposed', async () => {
    await page.goto(`/pack/${shipment!.consignment}`);
    await expect(page.getByText('Proposed cartons')).toBeVisible();
    await page.keyboard.press('Control+k');
    await expect(page.getByRole('region', { name: 'Cartons' }).getByText('Carton 1', { exact: true })).toBeVisible();
    const scan = page.getByLabel(/Scan goods into carton 1/);
    await scan.fill('jar-340-hx');
    await page.keyboard.press('Enter');
    await expect(page.getByText('JAR-340-HX is not in this shipment. Put it back.').first()).toBeVisible();
    await scan.fill('smk-ss-10');
    await page.keyboard.press('Enter');
    await expect(page.getByText('1 SMK-SS-10 in carton 1.')).toBeVisible();
    await page.getByRole('button', { name: /Close carton 1/ }).press('Enter');
    await expect(page.getByRole('button', { name: /Open carton 1 again/ })).toBeVisible();
    await page.getByRole('button', { name: /Pack as proposed/ }).press('Enter');
    await expect(page.getByText('All is packed.')).toBeVisible();
  });

  await test.step('the carrier makes the label, the shipment leaves, and is undone while it is in the house', async () => {
    await page.getByRole('button', { name: /Make label/ }).press('Enter');
    await expect(page.getByText(/Made, tracking/)).toBeVisible({ timeout: 20_000 });
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('button', { name: 'Undo shipment' })).toBeVisible();
    const pdf = await page.request.get(`/api/consignments/${shipment!.consignment}/packing-list`);
    expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');
    await page.getByRole('button', { name: 'Undo shipment' }).press('Enter');
    await expect(page.getByRole('button', { name: /Confirm shipment/ })).toBeVisible();
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('heading', { name: 'Shipped' })).toBeVisible();
    const { shipments } = await ask<Order>(page, `/orders/${order.id}`);
    expect(shipments.map((row) => row.state)).toEqual(['shipped']);
  });
});

test('a sale over the counter goes on while the line is down: nothing is lost, a bad lot is refused, and cash gives change', async ({ browser }) => {
  const page = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await logIn(page, 'wil');
  await page.goto('/counter?warehouse=MAR');
  await page.getByRole('button', { name: /New cash sale/ }).click();
  const scan = page.getByLabel('Scan goods, or type an item code');
  await scan.fill('smk-ss-10');
  await page.keyboard.press('Enter');
  const basket = page.getByRole('table', { name: 'Basket' });
  await expect(basket.getByRole('row').filter({ hasText: 'SMK-SS-10' })).toContainText('1');

  // What the browser says of a line that is down is no complaint of the page.
  page.removeAllListeners('console');
  await page.context().setOffline(true);
  await scan.fill('smk-ss-10');
  await page.keyboard.press('Enter');
  await scan.fill('qex-n10-wr');
  await page.keyboard.press('Enter');
  await expect(page.getByText('2 scans wait to be sent.')).toBeVisible();
  await scan.fill('(01)09501101530003(17)270301(10)OLD');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Lot OLD has expired. Put it into quarantine.')).toBeVisible();
  await page.context().setOffline(false);
  await expect(basket.getByRole('row').filter({ hasText: 'QEX-N10-WR' })).toBeVisible({ timeout: 20_000 });
  await expect(basket.getByRole('row').filter({ hasText: 'SMK-SS-10' })).toContainText('2 each');

  await page.getByRole('button', { name: /Take payment/ }).click();
  await page.getByLabel(/Cash handed over/).fill('500');
  await page.getByRole('button', { name: /Take cash/ }).click();
  await expect(page.getByText(/Paid in cash/)).toBeVisible();
  await expect(page.getByRole('link', { name: 'Print receipt' })).toBeVisible();
});
