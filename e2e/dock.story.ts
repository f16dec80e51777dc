import { expect, test } from '@playwright/test';
import { another, ask, choose, leaveFields, logIn, send, startOrder, typeLine } from './desk';
import { pickAll, press, read, released } from './shipments';

test('two orders from two warehouses in three shipments, 24 each and 3 dozen: two leave together, and each order says what has left', async ({ page }) => {
  await logIn(page);
  await startOrder(page, 'C1024', 'Northing');
  await typeLine(page, 'tol-hiv-j 24', 'TOL-HIV-J');
  await typeLine(page, 'jar-042-hx 3 dozen', 'JAR-042-HX');
  const draft = await read(page, Number(page.url().split('/').at(-1)));
  expect(draft.lines.map((line) => line.stockQuantity)).toEqual(['24', '36']);
  await send(page, `/orders/${draft.id}/lines/${draft.lines[1]!.id}`, { version: draft.version, warehouse: 'MAR' }, 'PUT');
  await page.reload();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Northing');
  const first = await released(page);
  await startOrder(page, 'C1024', 'Northing');
  await typeLine(page, 'tol-hiv-j 6', 'TOL-HIV-J');
  const second = await released(page);
  await pickAll(page, first);
  await pickAll(page, second);
  const shipments = [...(await read(page, first.id)).shipments, ...(await read(page, second.id)).shipments];
  expect(shipments.map((row) => row.number).sort()).toEqual([`${first.number}-1`, `${first.number}-2`, `${second.number}-1`].sort());

  await test.step('what goes to one address from one warehouse is sent along', async () => {
    const own = (await read(page, second.id)).shipments[0]!;
    await page.goto(`/pack/${own.consignment}`);
    await page
      .getByRole('button', { name: /Send .* along/ })
      .first()
      .press('Enter');
    await expect
      .poll(async () => new Set([...(await read(page, first.id)).shipments, ...(await read(page, second.id)).shipments].map((row) => row.consignment)).size)
      .toBe(2);
  });

  await test.step('all leave, and the order says so, shipment by shipment', async () => {
    const consignments = new Set([...(await read(page, first.id)).shipments, ...(await read(page, second.id)).shipments].map((row) => row.consignment));
    expect(consignments.size).toBe(2);
    for (const consignment of consignments) {
      await page.goto(`/pack/${consignment}`);
      await press(page, /Pack as proposed/);
      await expect(page.getByText('All is packed.')).toBeVisible();
      await press(page, /Make label/);
      await expect(page.getByText(/Made, tracking/)).toBeVisible({ timeout: 60_000 });
      await page.keyboard.press('Control+Enter');
      await expect(page.getByRole('heading', { name: 'Shipped' })).toBeVisible();
    }
    expect((await read(page, first.id)).shipments.map((row) => row.state)).toEqual(['shipped', 'shipped']);
    await page.goto(`/orders/${first.id}`);
    for (const { number } of (await read(page, first.id)).shipments) await expect(page.getByText(number).first()).toBeVisible();
  });
});

test('a piece is known by its serial number from the bin to the customer, and found again', async ({ page, browser }) => {
  await logIn(page);
  await page.goto('/items/CLP-QUN-1');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('CLP-QUN-1');
  await page.keyboard.press('w');
  await page.getByLabel('Each piece has a serial number').press('Space');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('link', { name: 'Serial numbers' })).toBeVisible();

  await startOrder(page, 'C1024', 'Northing');
  await typeLine(page, 'clp-qun-1 2', 'CLP-QUN-1');
  const order = await released(page);
  await pickAll(page, order);
  const [shipment] = (await read(page, order.id)).shipments;

  const packer = await another(browser, 'wil');
  await packer.goto(`/pack/${shipment!.consignment}`);
  await expect(packer.getByRole('region', { name: 'To pack' })).toBeVisible();
  await press(packer, /Open carton/);
  const scan = packer.getByLabel(/Scan goods into carton 1/);
  const scans = async (text: string, said: string) => {
    await scan.fill(text);
    await packer.keyboard.press('Enter');
    await expect(packer.getByText(said).first()).toBeVisible();
  };
  await scans('clp-qun-1', 'CLP-QUN-1 has serial numbers. Scan the serial number.');
  await scans('clp-qun-1 C-0071', '1 CLP-QUN-1, serial number C-0071, in carton 1.');
  await scans('C-0071', `Serial number C-0071 of CLP-QUN-1 is in carton 1 of shipment ${shipment!.number}.`);
  await scans('clp-qun-1 C-0072', '1 CLP-QUN-1, serial number C-0072, in carton 1.');
  await press(packer, /Close carton 1/);
  await expect(packer.getByText('All is packed.')).toBeVisible();
  await press(packer, /Make label/);
  await expect(packer.getByText(/Made, tracking/)).toBeVisible({ timeout: 60_000 });
  await packer.keyboard.press('Control+Enter');
  await expect(packer.getByRole('heading', { name: 'Shipped' })).toBeVisible();

  await leaveFields(page);
  await page.keyboard.press('/');
  await page.keyboard.type('C-0071');
  await expect(page.getByRole('option').first()).toContainText('with the customer');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('C-0071');
  await expect(page.getByRole('table', { name: 'Where it was' })).toContainText(shipment!.number);
});

test('a label that fails twice is tried again and made once; what the customer pays for freight stands on their page', async ({ page, browser }) => {
  await logIn(page);
  const manager = await another(browser, 'mona');
  const customers = await ask<readonly { readonly id: number; readonly number: string }[]>(page, '/customers?search=C1024');
  await page.goto(`/customers/${customers[0]!.id}`);
  await expect(page.getByRole('heading', { level: 1 })).toContainText('C1024');
  await page.keyboard.press('f');
  await page.getByLabel('Flat amount an order').fill('abc');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('alert').filter({ hasText: 'Flat amount' }).first()).toBeVisible();
  await choose(page, 'Freight', 'Flat');
  await page.getByLabel('Flat amount an order').fill('12.50');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText(/12.50 EUR .*order/i).first()).toBeVisible();

  await page.goto('/orders');
  await expect(page.getByRole('heading', { name: 'Orders' })).toBeVisible();
  await startOrder(page, 'C1024', 'Northing');
  await typeLine(page, 'tol-hiv-j 2', 'TOL-HIV-J');
  const order = await released(page);
  await pickAll(page, order);
  const [shipment] = (await read(page, order.id)).shipments;
  for (const { code } of await ask<readonly { readonly code: string }[]>(manager, '/carriers'))
    await send(manager, `/carriers/${code}`, { slow: 0, failures: 2, refuses: '' }, 'PUT');
  await page.goto(`/pack/${shipment!.consignment}`);
  await press(page, /Pack as proposed/);
  await expect(page.getByText('All is packed.')).toBeVisible();
  await press(page, /Make label/);
  await expect(page.getByText(/Made, tracking/)).toBeVisible({ timeout: 60_000 });
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('heading', { name: 'Shipped' })).toBeVisible();
  for (const { code } of await ask<readonly { readonly code: string }[]>(manager, '/carriers'))
    await send(manager, `/carriers/${code}`, { slow: 0, failures: 0, refuses: '' }, 'PUT');
});
