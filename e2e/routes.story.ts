import { randomUUID } from 'node:crypto';
import { expect, test, type Page } from '@playwright/test';
import { another, ask, choose, gloss, inMailbox, leaveFields, line, logIn, send, startOrder, typeLine, optionAt } from './desk';

interface Order {
  readonly id: number;
  readonly number: string | null;
  readonly version: number;
  readonly lines: readonly {
    readonly id: number;
    readonly schedule: readonly { readonly day: string; readonly quantity: string; readonly dropShip: boolean }[];
    readonly item: string;
    readonly uncovered: string;
    readonly waiting: string;
    readonly cancelled: string;
    readonly routes: readonly { readonly kind: string; readonly document: { readonly kind: string; readonly id: number; readonly number: string } | null }[];
  }[];
}

/** Takes the way whose words are given by its number; what the customer must agree to, they agree to on the phone. */
async function takeWay(page: Page, words: RegExp, agrees = false): Promise<void> {
  // A way can be taken once the act before is saved; ways are reckoned anew while somebody else's lines change.
  const found = () => optionAt(page, words);
  let at = 0;
  await expect
    .poll(
      async () => {
        const before = at;
        at = await found();
        return at > 0 && at === before;
      },
      { intervals: [250] },
    )
    .toBe(true);
  await page.keyboard.press(String(at));
  if (!agrees) return;
  await expect(gloss(page).getByLabel('What to ask')).toBeFocused();
  await gloss(page).getByRole('button', { name: 'Customer has agreed: route line' }).press('Enter');
}

test('one short line is served in each way there is', async ({ page }) => {
  await logIn(page);
  await startOrder(page, 'C1018', 'Winterbourne');
  const wanted = [
    ['tnk-050 3', 'TNK-050-ST'],
    ['hiv-n10 12', 'HIV-N10-CD'],
    ['ext-t4 3', 'EXT-T4-MN'],
    ['mrk-pen 100', 'MRK-PEN-5'],
    ['brs-bee 500', 'BRS-BEE-1'],
    ['smk-ss-10 60', 'SMK-SS-10'],
    ['lid-063-gd 600', 'LID-063-GD'],
    ['wax-blk 45', 'WAX-BLK-1'],
  ] as const;
  for (const [text, item] of wanted) await typeLine(page, text, item);

  await test.step('while they are on the phone: by its number, each line another way', async () => {
    await leaveFields(page);
    const ways: readonly (readonly [number, RegExp, boolean?])[] = [
      [1, /^\d+ Transfer from Ostrey Quay/],
      [2, /Assemble here/],
      [3, /^\d+ Drop ship from Stelling Stainless/],
      [4, /Special order from Pennard/],
      [5, /^\d+ Transfer \d+ from Quillhaven, transfer \d+ from Ostrey Quay, drop ship \d+ from Pennard Print and Tools/],
      [8, /backorder.*inbound supply/i],
      [7, /LID-063-BK in place of/, true],
      [6, /Cancel the shortfall/, true],
    ];
    for (const [number, words, agrees] of ways) {
      await line(page, number).focus();
      await expect(gloss(page).getByRole('heading', { level: 2 }).first()).toContainText(wanted[number - 1]![1]);
      await takeWay(page, words, agrees);
      if (agrees) await expect(gloss(page).getByLabel('What to ask')).toHaveCount(0);
      else await expect(gloss(page).locator('.chosen').first()).toBeVisible();
    }
  });

  const id = Number(new URL(page.url()).pathname.split('/').at(-1));
  await test.step('released, each has what it needs: a draft purchase, a transfer, an assembly, a line instead', async () => {
    await page.keyboard.press('Control+Enter');
    await expect(page.getByText(/Released as order \d+/)).toBeVisible();
    const order = await ask<Order>(page, `/orders/${id}`);
    const kinds = (at: number) => order.lines[at]!.routes.map((route) => [route.kind, route.document?.kind ?? null]);
    expect(kinds(0)).toEqual([['transfer', 'transfer']]);
    expect(kinds(1)).toEqual([['assemble', 'assembly']]);
    expect(kinds(2)).toEqual([['drop_ship', 'purchase']]);
    expect(kinds(3)).toEqual([['special_order', 'purchase']]);
    expect(kinds(4).map(([kind]) => kind)).toEqual(['transfer', 'transfer', 'drop_ship']);
    expect(order.lines.some((row) => row.item === 'LID-063-BK')).toBe(true);
    expect(order.lines.every((row) => Number(row.waiting) === 0)).toBe(true);
  });

  await test.step('the transfer leaves, comes in, and is kept for its line', async () => {
    await line(page, 1).focus();
    await gloss(page).locator('.chosen a').press('Enter');
    await expect(page.getByRole('heading', { level: 1 })).toContainText('Ostrey Quay to Marrowby');
    await page.keyboard.press('Control+Enter');
    await expect(page.getByText('inbound').first()).toBeVisible();
    await page.getByLabel('Received now: TNK-050-ST').fill('2');
    await expect(gloss(page)).toContainText('TNK-050-ST: 2 of 3, 1 short');
    await expect(gloss(page)).toContainText('No promise moves later.');
    await page.keyboard.press('Control+Enter');
    await expect(page.getByLabel('Received now: TNK-050-ST')).toHaveValue('1');
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('heading', { level: 1 })).toContainText('received');
  });

  await test.step('a route is taken back: it says first what that does', async () => {
    await page.goto(`/orders/${id}`);
    await line(page, 4).focus();
    await gloss(page).getByRole('button', { name: 'Undo', exact: true }).press('Enter');
    await expect(gloss(page).getByRole('group', { name: 'Undo route' })).toContainText('not sent yet');
    await gloss(page).getByRole('button', { name: 'Undo route' }).press('Enter');
    await expect(line(page, 4)).toContainText('backordered');
    const order = await ask<Order>(page, `/orders/${id}`);
    expect(order.lines[3]!.routes).toEqual([]);
  });
});

test('forty short lines are routed in one go, and their purchases gather', async ({ page, browser }) => {
  await logIn(page);
  const items = ['MRK-PEN-5', 'BRS-BEE-1', 'CLP-QUN-1', 'FRK-UNC-1', 'TOL-HIV-J', 'NAI-GMP-500', 'SMK-SS-10', 'STR-DBL-SS', 'GLV-LTH-9', 'JKT-COT-M'];
  const [customer] = await ask<{ id: number }[]>(page, '/customers?search=Ravensway');
  const { credit } = await ask<{ credit: { limit: string | null } }>(page, `/customers/${customer!.id}`);
  const fay = await another(browser, 'fay');
  const limit = await fay.request.put(`/api/customers/${customer!.id}/credit-limit`, {
    data: { limit: '900000', reason: 'a large spring', was: credit.limit },
    headers: { 'Idempotency-Key': randomUUID() },
  });
  expect(limit.status()).toBe(200);
  for (let round = 0; round < 4; round++) {
    let order = await send<Order>(page, '/orders', { customer: customer!.id });
    const lines = items.map((item) => ({ item, quantity: String(700 + round * 10) }));
    order = await send<Order>(page, `/orders/${order.id}/lines/many`, { version: order.version, lines });
    for (const row of order.lines)
      order = await send<Order>(page, `/orders/${order.id}/lines/${row.id}/routes`, { parts: [{ kind: 'backorder', quantity: row.uncovered }] });
    const seen = (await ask<Order>(page, `/orders/${order.id}`)).lines.map((row) => ({
      line: row.id,
      schedule: row.schedule.filter((entry) => !entry.dropShip).map(({ day, quantity }) => ({ day, quantity })),
      uncovered: row.uncovered,
    }));
    await send(page, `/orders/${order.id}/release`, { version: (await ask<Order>(page, `/orders/${order.id}`)).version, seen });
  }

  await page.goto('/shortages?by=item');
  await expect(page.getByRole('table', { name: 'Shortages' })).toContainText('Ravensway');
  await page.keyboard.press('f');
  await page.keyboard.type('ravensway');
  await expect(page.getByRole('status').filter({ hasText: 'at stake' })).toContainText('40 lines');
  await leaveFields(page);
  await page.keyboard.press('a');
  await expect(gloss(page).getByRole('heading', { name: '40 lines chosen' })).toBeVisible();
  await expect(gloss(page)).toContainText('Shipped by Pennard Print and Tools');
  await choose(page, 'What is ranked first', 'cheapest');
  // One purchase for each supplier, however many lines.
  await expect(gloss(page).getByText(/Purchase from Corvane Workwear to Marrowby.*8 lines/)).toHaveCount(1);
  await expect(gloss(page)).toContainText('No promise moves later');
  await page.keyboard.press('Control+Enter');
  await expect(gloss(page).getByRole('heading', { name: '40 lines routed' })).toBeVisible();
  await expect(page.getByRole('table', { name: 'Shortages' })).toContainText('No shortages');
});

test('a customer is asked by mail and answers on a telephone; the link works once', async ({ page, browser }) => {
  await logIn(page);
  await startOrder(page, 'C1012', 'Old Mill');
  await typeLine(page, 'suit l 30', 'SUT-VNT-L');
  await leaveFields(page);
  await line(page, 1).focus();
  await takeWay(page, /Backorder/);
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText(/Released as order \d+/)).toBeVisible();
  const id = Number(new URL(page.url()).pathname.split('/').at(-1));

  await page.goto(`/orders/${id}`);
  await line(page, 1).focus();
  await takeWay(page, /Cancel the shortfall/);
  await expect(gloss(page).getByLabel('What to ask')).toHaveValue(/take \d+ off your order/);
  // Wrong input is told where it stands.
  await gloss(page).getByLabel('Mail to (empty: by phone)').fill('nobody');
  await expect(gloss(page).getByRole('alert')).toContainText('Expected addresses');
  await gloss(page).getByLabel('Mail to (empty: by phone)').fill('perpetua@oldmill.example');
  await page.keyboard.press('Control+Enter');
  await expect(gloss(page)).toContainText('Asked, not answered');

  const mails = await ask<{ rows: { id: number; subject: string }[] }>(page, '/mail');
  const question = mails.rows.find((row) => row.subject.startsWith('A question about your order'))!;
  // Nobody at the desk sees the link: it stands in the customer's mailbox alone.
  const shown = await ask<{ body: string; message: string | null }>(page, `/mail/${question.id}`);
  expect([shown.body.includes('/answer/'), shown.message]).toEqual([false, null]);
  const address = new URL(/https?:\S+\/answer\/\S+/.exec(await inMailbox(question.id))![0]).pathname;
  // Somebody without a log-in, on a telephone.
  const phone = await (await browser.newContext({ viewport: { width: 390, height: 780 } })).newPage();
  await phone.goto(address);
  await expect(phone.getByRole('heading', { level: 1 })).toContainText('May we take');
  await phone.getByLabel('I take').fill('0');
  await phone.getByRole('button', { name: 'Take that part' }).click();
  await expect(phone.getByRole('alert')).toContainText('above 0');
  await phone.getByRole('button', { name: 'Yes, that is fine' }).click();
  await expect(phone.getByRole('heading', { name: 'Thank you' })).toBeVisible();
  await phone.goto(address);
  await expect(phone.getByRole('heading', { level: 1 })).toContainText('does not work any more');

  // The screen of the desk has followed by itself.
  await expect(gloss(page)).not.toContainText('Asked, not answered');
  const order = await ask<Order>(page, `/orders/${id}`);
  expect(Number(order.lines[0]!.waiting)).toBe(0);
  expect(Number(order.lines[0]!.cancelled)).toBeGreaterThan(0);
});

test('all short lines of a draft get their options in one act, compared first, by keyboard', async ({ page }) => {
  await logIn(page);
  await startOrder(page, 'ravensway', 'Ravensway');
  await typeLine(page, 'ext-r9-el 9', 'EXT-R9-EL');
  await typeLine(page, 'ext-t4-mn 12', 'EXT-T4-MN');
  await typeLine(page, 'fnd-dn-w 60 box', 'FND-DN-W');
  await page.keyboard.press('Control+o');
  const combinations = page.getByRole('table', { name: 'Options for all short lines' }).locator('tbody tr');
  await expect(combinations.first()).toBeVisible();
  await expect(gloss(page)).toContainText('Say');
  // Looked at and left: nothing has changed.
  await page.keyboard.press('Escape');
  await expect(combinations).toHaveCount(0);
  await page.keyboard.press('Control+o');
  await expect(combinations.first()).toBeVisible();
  await page.keyboard.press('Control+m');
  await expect(combinations.first()).toBeFocused();
  if ((await combinations.count()) > 1) {
    const before = await gloss(page).innerText();
    await page.keyboard.press('ArrowDown');
    await expect(combinations.nth(1)).toBeFocused();
    expect(await gloss(page).innerText()).not.toBe(before);
    await page.keyboard.press('ArrowUp');
  }
  const last = (await combinations.first().locator('td').nth(3).innerText()).trim();
  await page.keyboard.press('Enter');
  await expect(combinations).toHaveCount(0);
  // Every line has its option: the order comes to the day that was shown.
  await page.keyboard.press('h');
  await expect(page.getByRole('button', { name: /^Options for/ })).toBeVisible();
  if (last !== '–') await expect(gloss(page)).toContainText(`The last of it leaves ${last}`);
});
