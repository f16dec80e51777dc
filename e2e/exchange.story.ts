import { expect, test, type Browser, type Page } from '@playwright/test';
import { another, ask, choose, gloss, leaveFields, line, logIn, send, startOrder, typeLine, optionAt, movers } from './desk';

interface Purchase {
  readonly id: number;
  readonly number: string;
  readonly state: string;
  readonly version: number;
  readonly lines: readonly { readonly id: number; readonly item: string; readonly open: string; readonly closed: string }[];
  readonly mails: readonly { readonly subject: string }[];
}
interface Order {
  readonly id: number;
  readonly number: string;
  readonly lines: readonly {
    readonly shipped: string;
    readonly cancelled: string;
    readonly waiting: string;
    readonly routes: readonly { readonly document: { readonly id: number } | null }[];
  }[];
}
interface StandIn {
  readonly suppliers: readonly { readonly code: string; readonly exchanges: boolean }[];
}

/** The stand-in answers at once from now on, each supplier in its own way. */
async function suppliersAnswer(browser: Browser, habits: Readonly<Record<string, string>>, seconds = 1): Promise<void> {
  const mona = await another(browser, 'mona');
  const { suppliers } = await ask<StandIn>(mona, '/supplier-stand-in');
  const body = { seconds, suppliers: suppliers.map(({ code, exchanges }) => ({ code, exchanges, habit: habits[code] ?? 'silent' })) };
  await send(mona, '/supplier-stand-in', body, 'PUT');
  await mona.context().close();
}

const stockOf = async (page: Page, item: string) => {
  const { pools } = await ask<{ pools: readonly { warehouse: string; onHand: string }[] }>(page, `/items/${item}`);
  return pools.map((pool) => [pool.warehouse, pool.onHand]);
};

test('a supplier slips two weeks: every customer it hurts has another route, or a call to make', async ({ page }) => {
  await logIn(page);
  await page.goto('/supply?q=STD-N10-PN');
  const row = page.getByRole('table', { name: 'Purchase orders' }).locator('tbody tr').filter({ hasText: 'QUI' }).first();
  await row.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Orrington Joinery');
  await expect(gloss(page)).toContainText('For orders');
  await page.keyboard.press('d');
  await expect(page.getByLabel('Now expected')).toBeFocused();
  await page.keyboard.type('31 mar');
  await page.keyboard.press('Tab');
  await expect(gloss(page)).toContainText('2 promises to 2 customers move later');
  await page.keyboard.press('Control+b');

  // The board shows whom it hurts and nobody else, and a way for each.
  await expect(page.getByRole('heading', { name: 'Shortages' })).toBeVisible();
  const shortages = page.getByRole('table', { name: 'Shortages' }).locator('tbody tr');
  await expect(shortages).toHaveCount(2);
  await expect(shortages.filter({ hasText: 'Old Mill Wholefoods' })).toContainText('17 days late');
  await expect(gloss(page)).toContainText('2 lines chosen');
  await expect(page.getByRole('button', { name: /Route 2 lines/ })).toBeEnabled();
  await page.keyboard.press('Control+Enter');
  await expect(gloss(page)).toContainText('2 lines routed');

  // No order of today overtakes what the supplier owes: they wait for it, and are to be called with both days.
  await page.goto('/calls');
  const calls = page.getByRole('table', { name: 'Calls' }).locator('tbody tr').filter({ hasText: 'STD-N10-PN' });
  const tallow = calls.filter({ hasText: 'Tallow Bridge' });
  await expect(tallow).toContainText(/The 5 STD-N10-PN we promised for .* will leave on Thursday the 1st of April instead/);
  await expect(calls.filter({ hasText: 'Old Mill' })).toContainText(/The 11 STD-N10-PN we promised for .* will leave on Thursday the 1st of April instead/);
  await tallow.focus();
  await page.keyboard.press('Enter');
  await expect(tallow).toHaveCount(0);
});

test('an answer that is not as ordered comes up, says whom it hurts, and is seen to by key', async ({ page }) => {
  await logIn(page);
  await page.goto('/supply/messages');
  const rows = page.getByRole('table', { name: 'Supplier responses' }).locator('tbody tr');
  const answer = rows.filter({ hasText: 'Mellish Feeds' }).filter({ hasText: 'boiler' });
  await expect(answer).toContainText('not as ordered');
  await answer.focus();
  await expect(gloss(page)).toContainText('now expected Thu 25 Mar, was Mon 15 Mar');
  await expect(gloss(page)).toContainText('are at risk');
  await gloss(page)
    .getByRole('link', { name: /Route the shortages: 2 lines/ })
    .press('Enter');
  await expect(gloss(page)).toContainText('2 lines chosen');
  await expect(page.locator('tr.planned').first()).toContainText('Transfer from Marrowby');
  await expect(page.getByRole('button', { name: /Route 2 lines/ })).toBeEnabled();
  await page.keyboard.press('Control+Enter');
  await expect(gloss(page)).toContainText('2 lines routed');

  await page.goto('/supply/messages');
  await answer.focus();
  await page.keyboard.press('l');
  await expect(answer).toHaveCount(0);
  await page.goto('/supply/messages?which=all');
  await expect(answer).toContainText('reviewed');
});

test('a drop shipment: ordered, announced, confirmed, and it never touched our stock', async ({ page, browser }) => {
  await suppliersAnswer(browser, { STELLING: 'as_asked' });
  await logIn(page);
  const before = await stockOf(page, 'EXT-R9-EL');
  await startOrder(page, 'C1010', 'Fennimore');
  await typeLine(page, 'ext-r9 6', 'EXT-R9-EL');
  await leaveFields(page);
  await line(page, 1).focus();
  const found = () => optionAt(page, /Drop ship from Stelling Stainless/);
  await expect.poll(found).toBeGreaterThan(0);
  await page.keyboard.press(String(await found()));
  await expect(gloss(page).locator('.chosen')).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText(/Released as order \d+/)).toBeVisible();
  const address = page.url();
  const order = await ask<Order>(page, `/orders/${address.split('/').at(-1)!.split('?')[0]}`);
  const purchase = order.lines[0]!.routes.find((route) => route.document)!.document!.id;

  await page.goto(`/supply/${purchase}`);
  await expect(page.getByRole('button', { name: /Send to the supplier/ })).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(gloss(page)).toContainText('our order');
  await expect(gloss(page)).toContainText('mail to orders@stelling.example');
  // The answer and the notice come by themselves, through the exchange folder.
  await expect(page.getByRole('heading', { level: 1 })).toContainText('closed', { timeout: 30_000 });
  await expect(gloss(page)).toContainText('despatch notice');
  await expect.poll(async () => (await ask<Order>(page, `/orders/${order.id}`)).lines[0]!.waiting).toBe('0');
  expect(Number((await ask<Order>(page, `/orders/${order.id}`)).lines[0]!.shipped)).toBeGreaterThan(0);
  expect(await stockOf(page, 'EXT-R9-EL')).toEqual(before);
  await suppliersAnswer(browser, {}, 3600);
});

test('a supplier slips with a drop shipment: its customer has another way, and the supplier is told it is taken back', async ({ page }) => {
  await logIn(page);
  await page.goto('/supply?q=P7617');
  const row = page.getByRole('table', { name: 'Purchase orders' }).locator('tbody tr').filter({ hasText: 'P7617' });
  await row.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('P7617');
  await page.keyboard.press('d');
  await expect(page.getByLabel('Now expected')).toBeFocused();
  await page.keyboard.type('26 mar');
  await page.keyboard.press('Tab');
  await expect(movers(page)).toContainText(/1 EXT-R9-EL\s*Fri 12 Mar\s*Fri 26 Mar\s*14 days later/);
  await page.keyboard.press('Control+b');

  await expect(page.getByRole('table', { name: 'Shortages' }).locator('tbody tr:not(.planned)')).toHaveCount(1);
  await expect(page.getByRole('table', { name: 'Shortages' })).toContainText('told Fri 12 Mar');
  await expect(page.locator('tr.planned')).toContainText('1 of P7617 taken back from Stelling Stainless');
  await expect(page.getByRole('button', { name: /Route 1 line/ })).toBeEnabled();
  await page.keyboard.press('Control+Enter');
  await expect(gloss(page)).toContainText('1 line routed');
  await expect(gloss(page)).toContainText('1 of purchase P7617 closed');

  await page.goto('/supply?q=P7617&state=all');
  await row.focus();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('cancelled');
  await expect(gloss(page)).toContainText('P7617 is cancelled');
  // The warehouse has it by now, and sooner than was told: there is no call to make.
  await page.goto('/orders?q=20380&state=all');
  const order = page.getByRole('table', { name: 'Orders' }).locator('tbody tr').filter({ hasText: '20380' });
  await order.focus();
  await page.keyboard.press('Enter');
  await expect(line(page, 1)).toContainText('covered');
  await expect(line(page, 1)).toContainText('Thu 11 Mar');
  await page.goto('/calls');
  await expect(page.getByRole('heading', { level: 1 })).toBeVisible();
  await expect(page.getByRole('table', { name: 'Calls' }).locator('tbody tr').first()).toBeVisible();
  await expect(page.getByRole('table', { name: 'Calls' })).not.toContainText('20380');
});

test('a special order is cancelled by the customer after its purchase was sent: the supplier is told, and nothing is left hanging', async ({ page }) => {
  await logIn(page);
  await startOrder(page, 'C1021', 'Abbot');
  await typeLine(page, 'nuc-n05 3', 'NUC-N05-BF');
  await leaveFields(page);
  await line(page, 1).focus();
  const found = () => optionAt(page, /Special order from Draycombe/);
  await expect.poll(found).toBeGreaterThan(0);
  await page.keyboard.press(String(await found()));
  await expect(gloss(page).locator('.chosen')).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText(/Released as order \d+/)).toBeVisible();
  const address = page.url();
  const read = () => ask<Order>(page, `/orders/${address.split('/').at(-1)!.split('?')[0]}`);
  const purchase = (await read()).lines[0]!.routes.find((route) => route.document)!.document!.id;
  await page.goto(`/supply/${purchase}`);
  await expect(page.getByRole('button', { name: /Send to the supplier/ })).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('sent');

  await page.goto(address);
  await line(page, 1).focus();
  await page.keyboard.press('x');
  await expect(page.getByRole('heading', { name: /Cancel line 1/ })).toBeVisible();
  // Linked supply is named before it is done.
  await expect(gloss(page)).toContainText('the supplier must be told');
  await choose(page, 'Reason', 'customer');
  await expect(page.getByLabel('close the purchase for it, too')).toBeChecked();
  await page.keyboard.press('Control+Enter');
  await expect(line(page, 1)).toContainText('cancelled');

  const bought = await ask<Purchase>(page, `/purchases/${purchase}`);
  expect(bought.state).toBe('cancelled');
  expect(bought.lines.every((row) => row.open === '0')).toBe(true);
  expect(bought.mails[0]!.subject).toContain(`Purchase order ${bought.number} is cancelled`);
  const after = (await read()).lines[0]!;
  expect([after.cancelled, after.waiting, after.routes]).toEqual(['3', '0', []]);
  // Nobody waits for it: no shortage, nothing due at the dock, nothing on the supplier’s list that is still open.
  expect(
    (await ask<{ rows: readonly { order: number }[] }>(page, '/shortages?most=2000')).rows.filter(
      (row) => row.order === Number(address.split('/').at(-1)!.split('?')[0]),
    ),
  ).toEqual([]);
  expect((await ask<readonly { id: number; kind: string }[]>(page, '/receiving')).filter((row) => row.kind === 'purchase' && row.id === purchase)).toEqual([]);
});

test('what is low is bought: chosen, put on a draft, changed by hand, sent, announced and taken in by lot on a telephone', async ({ page, browser }) => {
  await suppliersAnswer(browser, { MELLISH: 'as_asked' });
  await logIn(page);
  await page.goto('/supply/reorder?q=FEE-POL-05&warehouse=OST');
  const row = page.getByRole('table', { name: 'What to buy' }).locator('tbody tr').filter({ hasText: 'FEE-POL-05' });
  await row.focus();
  await expect(gloss(page)).toContainText('are asked for on a working day');
  await page.keyboard.press('Space');
  await page.keyboard.press('Control+Enter');
  await expect(gloss(page)).toContainText('Put on drafts');
  await gloss(page).getByRole('link', { name: /^P\d+/ }).press('Enter');

  await expect(page.getByRole('heading', { level: 1 })).toContainText('draft');
  await leaveFields(page);
  await page.keyboard.press('e');
  await page.getByLabel('Quantity of FEE-POL-05').fill('400');
  await page.getByLabel('Item of line 2').fill('fee-syr');
  await page.getByRole('option', { name: /FEE-SYR-14/ }).click();
  await page.getByLabel('Quantity of line 2').fill('12');
  await page.getByLabel('Note to the supplier').fill('Tail lift, please');
  await page.keyboard.press('Control+Enter');
  const lines = page.getByRole('table', { name: 'Lines of the purchase order' });
  await expect(lines).toContainText('400');
  await expect(lines).toContainText('FEE-SYR-14');
  await leaveFields(page);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('acknowledged', { timeout: 30_000 });
  await expect(gloss(page)).toContainText('Inbound', { timeout: 30_000 });
  const purchase = page.url().split('/').at(-1)!;

  const wil = await (await browser.newContext({ viewport: { width: 390, height: 844 } })).newPage();
  await logIn(wil, 'wil');
  await wil.goto(`/receiving/${purchase}`);
  await expect(wil.getByText('Announced', { exact: true })).toBeVisible();
  await wil.getByRole('button', { name: /Received as announced/ }).click();
  const pollen = wil.getByRole('article').filter({ hasText: 'FEE-POL-05' });
  await expect(pollen.getByLabel('Good quantity')).toHaveValue('400');
  await pollen.getByLabel('Good quantity').fill('396');
  await pollen.getByLabel('Damaged').fill('4');
  // A lot that expires on a day that does not exist is told at once, and nothing is booked.
  await pollen.getByLabel(/Expires/).fill('31 feb');
  await wil.getByRole('button', { name: /Receive goods/ }).click();
  await expect(wil.getByText('FEE-POL-05: 31 feb is no day')).toBeVisible();
  await pollen.getByLabel(/Expires/).fill('30 9 2028');
  expect(await wil.evaluate(() => document.documentElement.scrollWidth)).toBeLessThanOrEqual(390);
  await wil.getByRole('button', { name: /Receive goods/ }).click();
  // The damaged ones are still awaited; all else is in.
  await expect(pollen).toContainText('4 received damaged');
  await expect(wil.getByRole('article')).toHaveCount(1);
  await wil.context().close();

  // In its bin by lot; the damaged ones stand in quarantine, where nobody is promised them.
  await page.goto('/items/places?q=FEE-POL-05&warehouse=OST');
  const places = page.getByRole('table', { name: 'Stock by place' }).locator('tbody tr');
  const held = places.filter({ hasText: 'quarantine' });
  await expect(held).toContainText('4');
  await held.focus();
  await page.keyboard.press('q');
  await expect(gloss(page)).toContainText('Out of quarantine: FEE-POL-05');
  await page.getByLabel('Note', { exact: true }).fill('only the cartons were wet');
  await expect(gloss(page)).toContainText(/No promise moves later|moves earlier|move earlier/);
  await page.keyboard.press('Control+Enter');
  await expect(held).toHaveCount(0);
  await suppliersAnswer(browser, {}, 3600);
});
