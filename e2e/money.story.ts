import { expect, test } from '@playwright/test';
import { another, ask, logIn, send, startOrder, typeLine } from './desk';
import { read, released, shipAll } from './shipments';

test('two orders, three shipments, one invoice: billed in the units ordered, paid short and over, a price credited', async ({ page, browser }) => {
  await logIn(page);
  // What other stories sold them is owed, too: credit is not what this one is about.
  const manager = await another(browser, 'mona');
  const [northing] = await ask<readonly { id: number }[]>(manager, '/customers?search=C1024');
  const { credit } = await ask<{ credit: { limit: string | null } }>(manager, `/customers/${northing!.id}`);
  await send(manager, `/customers/${northing!.id}/credit-limit`, { limit: '99999', reason: 'a large order', was: credit.limit }, 'PUT');
  await startOrder(page, 'C1024', 'Northing');
  await typeLine(page, 'tol-hiv-j 24', 'TOL-HIV-J');
  await typeLine(page, 'jar-042-hx 3 dozen', 'JAR-042-HX');
  const draft = await read(page, Number(page.url().split('/').at(-1)));
  await send(page, `/orders/${draft.id}/lines/${draft.lines[1]!.id}`, { version: draft.version, warehouse: 'MAR' }, 'PUT');
  await page.reload();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Northing');
  const first = await released(page);
  await startOrder(page, 'C1024', 'Northing');
  await typeLine(page, 'tol-hiv-j 6', 'TOL-HIV-J');
  const second = await released(page);
  const shipments = [...(await shipAll(page, first)), ...(await shipAll(page, second))];
  expect(shipments.map((row) => row.state)).toEqual(['shipped', 'shipped', 'shipped']);

  const fay = await another(browser, 'fay');
  await test.step('the clerk sees what waits, and issues one invoice over all three by keyboard', async () => {
    await fay.goto(`/invoices/bill?q=${first.number}`);
    const rows = fay.getByRole('table', { name: 'Shipments to bill' }).locator('tbody tr');
    await expect(rows).toHaveCount(2);
    await fay.goto('/invoices/bill?q=northing');
    for (const { number } of shipments) {
      await rows.filter({ hasText: number }).focus();
      await fay.keyboard.press('Space');
    }
    const seen = fay.getByRole('table', { name: 'What the invoice says' });
    await expect(seen.locator('tbody tr')).toHaveCount(3);
    await fay.keyboard.press('Control+Enter');
    await expect(fay.getByRole('heading', { level: 1 })).toContainText(/Invoice I\d+/);
    const lines = fay.getByRole('table', { name: 'Lines of the invoice' });
    await expect(lines.getByRole('row').filter({ hasText: 'TOL-HIV-J' }).first()).toContainText('24 each');
    await expect(lines.getByRole('row').filter({ hasText: 'JAR-042-HX' })).toContainText('3 dozen');
  });
  const invoice = Number(fay.url().split('/').at(-1));
  const { total } = await ask<{ total: string }>(fay, `/invoices/${invoice}`);

  await test.step('a payment that is short leaves the rest open; wrong figures are told, and nothing is recorded', async () => {
    await fay.keyboard.press('Control+Enter');
    await expect(fay.getByRole('table', { name: 'Open invoices' })).toBeVisible();
    await fay.keyboard.press('p');
    await fay.getByLabel(/Amount in/).fill('abc');
    await fay.keyboard.press('Control+Enter');
    await expect(fay.getByText('Amount: expected an amount above 0.')).toBeVisible();
    await fay.getByLabel(/Amount in/).fill('100');
    const number = (await ask<{ number: string }>(fay, `/invoices/${invoice}`)).number;
    const paid = fay.getByLabel(`Paid now: ${number}`);
    for (const other of await fay.getByLabel(/^Paid now: /).all()) await other.fill('');
    await paid.fill('100');
    await fay.keyboard.press('Control+Enter');
    await expect(fay.getByText('Payment recorded.')).toBeVisible();
    const after = await ask<{ open: string }>(fay, `/invoices/${invoice}`);
    expect(Number(after.open)).toBeCloseTo(Number(total) - 100, 2);
  });

  await test.step('a price is credited: the invoice is settled by the note, and never above what was billed', async () => {
    await fay.goto(`/invoices/${invoice}`);
    await expect(fay.getByRole('heading', { level: 1 })).toContainText('Invoice');
    await fay.keyboard.press('c');
    await fay
      .getByLabel(/Credited quantity: line \d, TOL-HIV-J/)
      .first()
      .fill('25');
    await fay.getByLabel('Why', { exact: true }).fill('one euro less was agreed');
    await fay.keyboard.press('Control+Enter');
    await expect(fay.getByText(/25 is more than the 24 billed/)).toBeVisible();
    await fay
      .getByLabel(/Credited quantity: line \d, TOL-HIV-J/)
      .first()
      .fill('24');
    await fay
      .getByLabel(/Less for one: line \d, TOL-HIV-J/)
      .first()
      .fill('1');
    await fay.keyboard.press('Control+Enter');
    await expect(fay.getByRole('heading', { level: 1 })).toContainText(/Credit note CN\d+/);
    const pdf = await fay.request.get(`/api/invoices/${fay.url().split('/').at(-1)!}/paper`);
    expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');
  });
});
