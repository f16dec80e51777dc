import { execFileSync } from 'node:child_process';
import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { ask, choose, gloss, leaveFields, line, logIn, quickLine, startOrder, typeLine, optionAt, options } from './desk';

interface Order {
  readonly id: number;
  readonly number: string;
  readonly lines: readonly {
    readonly lineNo: number;
    readonly schedule: readonly { readonly day: string; readonly quantity: string; readonly kept: boolean; readonly dropShip: boolean }[];
    readonly uncovered: string;
    readonly waiting: string;
    readonly dropShip: string;
    readonly promised: string;
  }[];
}
interface Pool {
  readonly pools: readonly { readonly warehouse: string; readonly onHand: string; readonly committed: string }[];
}

test('an order from the telephone to the door, by keyboard alone', async ({ page }) => {
  await logIn(page);

  await test.step('enter it: the customer by their phone, lines by fragments, a wrong one on the way', async () => {
    await startOrder(page, '960263', 'Winterbourne Honey');
    await page.keyboard.type('nosuchthing 4');
    await expect(page.getByText('no item “nosuchthing”')).toBeVisible();
    await page.keyboard.press('Enter');
    await expect(page.getByRole('alert').filter({ hasText: 'no item that matches' })).toBeVisible();
    // It stands where it was typed, and is taken off.
    await expect(quickLine(page)).toHaveValue('');
    await page.keyboard.press('ArrowUp');
    await page.keyboard.press('Escape');
    await expect(page.getByText('no item that matches')).toBeHidden();
    await expect(quickLine(page)).toBeFocused();

    await page.keyboard.type('jar-454 2 tray fri');
    await expect(line(page, 1)).toContainText('JAR-454-RD');
    await expect(gloss(page)).toContainText('Requested to ship from Marrowby by Fri 12 Mar');
    await expect(gloss(page)).toContainText('Where they come from');
    await expect(gloss(page).getByText('co-operatives', { exact: true })).toBeVisible();
    await page.keyboard.press('Enter');
    await expect(quickLine(page)).toHaveValue('');
    await typeLine(page, 'brs 400', 'BRS-BEE-1');
    await expect(line(page, 2)).toContainText('backordered');
    await expect(page.getByRole('alert')).toContainText('backordered');
  });

  await test.step('change a line where it stands: quantity, unit and day as they are said', async () => {
    await page.keyboard.press('ArrowUp');
    await page.keyboard.press('ArrowUp');
    await expect(line(page, 1)).toBeFocused();
    await page.keyboard.press('Enter');
    await expect(page.getByLabel('Quantity, unit and day of line 1')).toBeFocused();
    await page.keyboard.type('some');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('alert')).toContainText('is no quantity');
    await page.keyboard.press('Control+a');
    await page.keyboard.type('2 tray thu');
    await page.keyboard.press('Enter');
    await expect(gloss(page)).toContainText('Requested to ship from Marrowby by Thu 11 Mar');
    await expect(line(page, 1)).toBeFocused();
    await page.keyboard.press('Escape');
    await expect(quickLine(page)).toBeFocused();
  });

  await test.step('it cannot be released while a quantity has neither cover nor a way', async () => {
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('alert')).toContainText('backordered and have no route');
  });

  await test.step('route the shortage: a part drop shipped, a part bought, the rest waits', async () => {
    await page.keyboard.press('ArrowUp');
    await expect(line(page, 2)).toBeFocused();
    for (const [part, way] of [
      ['100', /Drop ship from Pennard Print and Tools/],
      ['150', /^\d+ Special order from/],
    ] as const) {
      await expect(page.getByText('Options for the')).toBeVisible();
      await page.keyboard.press('r');
      await page.keyboard.type(part);
      await expect(page.getByText(`Options for the ${part}`)).toBeVisible();
      const found = () => optionAt(page, way);
      await expect.poll(found).toBeGreaterThan(0);
      const number = await found();
      await expect(options(page).nth(number - 1)).toContainText('%');
      // Enter leaves the field; the number takes the way.
      await page.keyboard.press('Enter');
      await page.keyboard.press(String(number));
      await expect(gloss(page).locator('.chosen').filter({ hasText: part })).toBeVisible();
    }
    // The ways of what is left stand there, not those of the part that was bought.
    await expect(page.getByText('Options for the 150')).toBeHidden();
    const found = () => optionAt(page, /Backorder: next purchase/);
    await expect.poll(found).toBeGreaterThan(0);
    const number = await found();
    await page.keyboard.press(String(number));
    await expect(gloss(page).locator('.chosen')).toHaveCount(3);
  });

  const address = page.url();
  await test.step('the draft survives a closed tab', async () => {
    await page.goto('about:blank');
    await page.goto(address);
    await expect(line(page, 2)).toContainText('BRS-BEE-1');
    await expect(quickLine(page)).toBeFocused();
  });

  let order: Order;
  await test.step('release it: goods are committed, a number is given, the acknowledgement is a PDF', async () => {
    await page.keyboard.press('Control+Enter');
    await expect(page.getByText(/Released as order \d+/)).toBeVisible();
    order = await ask<Order>(page, `/orders/${address.split('/').at(-1)!}`);
    expect(order.number).toMatch(/^\d{5}$/);
    expect(order.lines[1]).toMatchObject({ dropShip: '100' });
    expect(Number(order.lines[1]!.waiting)).toBeGreaterThan(0);
    const pdf = await page.request.get(`/api/orders/${order.id}/acknowledgement`);
    expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');
    await expect(gloss(page)).toContainText('released order');
  });

  await test.step('the book that is downloaded gives the same days by the command as the screen shows', async () => {
    const file = join(mkdtempSync(join(tmpdir(), 'book-')), 'book.json');
    writeFileSync(file, await (await page.request.get('/api/order-book')).text());
    const result = JSON.parse(execFileSync('npm', ['run', '--silent', 'promise', '--', file], { encoding: 'utf8', stdio: ['ignore', 'pipe', 'ignore'] })) as {
      promises: { id: string; schedule: { date: string; quantity: number }[] }[];
    };
    for (const shown of order.lines) {
      const computed = result.promises.find((row) => row.id === `${order.number}/${shown.lineNo}`)?.schedule ?? [];
      expect(shown.schedule.filter((entry) => !entry.dropShip).map((entry) => [entry.day, Number(entry.quantity)])).toEqual(
        computed.map((entry) => [entry.date, entry.quantity]),
      );
    }
  });

  await test.step('pick and ship what is covered; stock falls when it leaves, not before', async () => {
    const before = (await ask<Pool>(page, '/items/JAR-454-RD')).pools.find((pool) => pool.warehouse === 'MAR')!;
    await leaveFields(page);
    // Nothing of it is to leave today: what comes next is the purchase that it waits for. Shipping stands under More.
    await expect(page.getByRole('link', { name: /Send P\d+/ })).toBeVisible();
    await page.getByRole('button', { name: 'More' }).press('Enter');
    await page.getByRole('menuitem', { name: 'To shipping' }).press('Enter');
    await expect(page.getByRole('heading', { name: 'Shipping' })).toBeVisible();
    const ready = page.getByRole('region', { name: 'Ready to pick' }).getByRole('article');
    await expect(ready).toHaveCount(1);
    await ready.focus();
    await page.keyboard.press('Control+Enter');
    const picking = page.getByRole('region', { name: 'Picks in progress' }).getByRole('article');
    await expect(picking).toHaveCount(1);
    const during = (await ask<Pool>(page, '/items/JAR-454-RD')).pools.find((pool) => pool.warehouse === 'MAR')!;
    expect(during.onHand).toBe(before.onHand);
    await picking.focus();
    // Past the shipment, the order and the bench.
    for (let at = 0; at < 4; at++) await page.keyboard.press('Tab');
    await page.keyboard.type('TRK-77');
    await page.keyboard.press('Control+Enter');
    await expect(picking).toHaveCount(0);
    const after = (await ask<Pool>(page, '/items/JAR-454-RD')).pools.find((pool) => pool.warehouse === 'MAR')!;
    expect(Number(before.onHand) - Number(after.onHand)).toBe(48);
  });

  await test.step("send the purchases; the supplier's notice ships the drop shipment and our stock stays", async () => {
    await page.goto(address);
    const before = await ask<Pool>(page, '/items/BRS-BEE-1');
    await expect(line(page, 2)).toBeVisible();
    await line(page, 2).focus();
    const purchases = await gloss(page)
      .locator('.chosen a')
      .evaluateAll((links) => links.map((link) => link.getAttribute('href')!));
    expect(purchases).toHaveLength(2);
    for (const purchase of purchases) {
      await page.goto(purchase);
      await expect(page.getByRole('button', { name: /Send to the supplier/ })).toBeVisible();
      await leaveFields(page);
      await page.keyboard.press('Control+Enter');
      const next = page.getByRole('button', { name: /Confirm the supplier|Receive/ });
      const isDropShipment = (await next.innerText()).includes('Confirm');
      await page.keyboard.press('Control+Enter');
      if (isDropShipment) {
        await page.keyboard.press('Control+Enter');
        await expect(page.getByRole('heading', { level: 1 })).toContainText('closed');
      } else {
        await expect(page.getByLabel('Scan a label')).toBeFocused();
        await leaveFields(page);
        await page.keyboard.press('a');
        await expect(page.getByLabel('Good quantity')).toHaveValue('150');
        await page.keyboard.press('Control+Enter');
        await expect(page.getByText('Nothing more is expected: closed')).toBeVisible();
      }
    }
    const after = await ask<Pool>(page, '/items/BRS-BEE-1');
    const onHand = (pool: Pool) => pool.pools.reduce((sum, row) => sum + Number(row.onHand), 0);
    // Only the special order of 150 came to us; the 100 went straight to the customer.
    expect(onHand(after) - onHand(before)).toBe(150);
    await page.goto(address);
    await expect(line(page, 2)).toContainText('246 shipped');
  });

  await test.step('cancel what is owed of the line, with a reason; what happened can be read', async () => {
    await line(page, 2).focus();
    await page.keyboard.press('x');
    await expect(page.getByRole('heading', { name: /Cancel line 2/ })).toBeVisible();
    await page.keyboard.press('Tab');
    await expect(page.getByRole('combobox', { name: 'Reason', exact: true })).toBeFocused();
    await choose(page, 'Reason', 'customer');
    await expect(gloss(page).getByText('What it frees')).toBeVisible();
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('heading', { name: /Cancel line 2/ })).toHaveCount(0);
    await leaveFields(page);
    await page.keyboard.press('h');
    await expect(gloss(page)).toContainText('cancelled');
    await expect(gloss(page)).toContainText('customer changed mind');
    await expect(page.getByRole('heading', { level: 1 })).toContainText('shipped');
  });
});
