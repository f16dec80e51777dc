// npm run screenshots: the pictures of docs/screenshots, from the demo on a fixed day.
import { mkdirSync, mkdtempSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { dropDatabase, ensureDatabase, freePort, startCluster } from './lib/cluster.mjs';
import { needChromium } from './lib/debian.mjs';
import { installPackages, root } from './lib/packages.mjs';
import { build, loadDemo, onEnd, prepareDatabase, startCarriers, startServer } from './lib/steps.mjs';

const TODAY = '2027-03-09';
const MAIL = `Hi Ida,

hope the bees wintered well. Our purchase order: WH-8861, could everything be delivered by Thursday 18 March?

20 trays jars 340
480 gold lids 63
4 boxes foundaton deep wired
JAR-454-RD 10 case
6 flux capacitors

Best wishes
Nora`;
const folder = join(root, 'docs/screenshots');
const stops = [];
const end = onEnd(async () => {
  for (const stop of stops.reverse()) await stop();
});

try {
  await installPackages();
  needChromium();
  const cluster = await startCluster('test', { fsync: false });
  if (cluster.started) stops.push(() => cluster.stop());
  await build();
  await dropDatabase(cluster, 'pictures');
  const urls = await ensureDatabase(cluster, 'pictures');
  await prepareDatabase(urls);
  await loadDemo(urls, { NOCK_TODAY: TODAY });
  const carriers = await startCarriers({ folder: mkdtempSync(join(tmpdir(), 'nockwright-carriers-')), env: { NOCK_TODAY: TODAY }, freePort });
  stops.push(() => carriers.stop());
  const server = await startServer({ urls, port: await freePort(0), env: { NOCK_TODAY: TODAY, NOCK_CARRIERS: carriers.urls } });
  stops.push(() => server.stop());
  mkdirSync(folder, { recursive: true });
  await takePictures(server.url);
  await end(0);
} catch (error) {
  console.error(`\nnpm run screenshots: ${error.stack}`);
  await end(1);
}

async function takePictures(url) {
  const { chromium } = await import('@playwright/test');
  const browser = await chromium.launch({
    executablePath: '/usr/bin/chromium',
    args: ['--no-sandbox', '--disable-gpu', '--disable-background-networking', '--disable-sync', '--no-first-run'],
  });
  stops.push(() => browser.close());
  const open = async (login, options) => {
    const page = await (await browser.newContext({ viewport: { width: 1280, height: 800 }, reducedMotion: 'reduce', ...options })).newPage();
    await page.goto(url);
    await page.getByLabel('Name').fill(login);
    await page.getByLabel('Password').fill('honey-and-wax');
    await page.keyboard.press('Enter');
    await page.getByRole('heading', { name: 'Orders' }).waitFor();
    return page;
  };
  const shoot = async (page, name) => {
    await page.evaluate('document.fonts.ready');
    await page.waitForLoadState('networkidle').catch(() => undefined);
    await new Promise((resolve) => setTimeout(resolve, 500));
    await page.screenshot({ path: join(folder, `${name}.png`) });
  };
  const settled = () => new Promise((resolve) => setTimeout(resolve, 700));

  const page = await open('ida', {});
  for (const [name, path, row] of [
    ['orders', '/orders', 'Kettleby'],
    ['answers', '/supply/messages', 'Mellish'],
    ['customer', '/customers/1', 'WH-8841'],
    ['calls', '/calls', 'Tallow Bridge'],
  ]) {
    await page.goto(url + path);
    await page.getByRole('row').filter({ hasText: row }).first().waitFor();
    await shoot(page, name);
  }
  await page.goto(`${url}/shortages?by=supplier`);
  await page.getByRole('row').filter({ hasText: 'backordered' }).first().waitFor();
  await page.keyboard.press('a');
  await page.getByText('What it makes').waitFor();
  await shoot(page, 'shortages');

  await page.goto(`${url}/shipping`);
  await page.getByRole('article').first().focus();
  await shoot(page, 'shipping');

  const { rows } = await (await page.request.get(`${url}/api/orders?search=WH-8841`)).json();
  const line = page.getByRole('table', { name: 'Lines of the order' }).locator('tbody tr').first();
  await page.goto(`${url}/orders/${rows[0].id}`);
  await line.focus();
  await page.locator('tr.option').first().waitFor();
  await shoot(page, 'order-sheet');

  const angry = (await (await page.request.get(`${url}/api/orders?search=ABB-7`)).json()).rows[0];
  await page.goto(`${url}/orders/${angry.id}`);
  await line.focus();
  await page.keyboard.press('u');
  await page.getByRole('combobox', { name: /^Ahead of/ }).focus();
  await page.keyboard.press('Enter');
  await page.getByRole('option', { name: /Fennimore/ }).click();
  await page.getByText('Moves later').first().waitFor();
  await shoot(page, 'ripple');

  await page.goto(`${url}/plan`);
  await page.getByRole('button', { name: /Re-promise all orders/ }).click();
  const mover = page.getByRole('table', { name: 'Promises that would move' }).locator('tbody tr:not(.heading)').first();
  await mover.waitFor();
  await mover.focus();
  await page.keyboard.press(' ');
  await page.getByText('If only this promise').waitFor();
  await settled();
  await shoot(page, 'plan');

  await page.goto(`${url}/orders/new`);
  await page.getByLabel('Who is calling?').fill('wether');
  await settled();
  await page.keyboard.press('Enter');
  for (const text of ['jar-340-hx 90 tray fri', 'lid gold 480', 'brs 400']) {
    await settled();
    await page.keyboard.type(text);
    await settled();
    await page.keyboard.press('Enter');
  }
  await settled();
  await page.keyboard.type('fnd 6 box');
  await settled();
  await shoot(page, 'order-entry');

  await page.getByLabel('New line: item, quantity, unit, day').fill('');
  await page.keyboard.press('Control+b');
  await page.getByLabel('The mail or list').fill(MAIL);
  await page.getByRole('table', { name: 'Proposed lines' }).locator('tbody tr').nth(4).focus();
  await shoot(page, 'mail');

  const clerk = await open('fay', {});
  const invoices = await (await clerk.request.get(`${url}/api/invoices?q=garrick`)).json();
  await clerk.goto(`${url}/invoices/${invoices.rows.find((row) => row.number.startsWith('I')).id}`);
  await clerk.getByRole('table', { name: 'Lines of the invoice' }).waitFor();
  await shoot(clerk, 'invoice');
  const short = (await (await clerk.request.get(`${url}/api/invoices?q=pipistrelle`)).json()).rows[0];
  await clerk.goto(`${url}/customers/${short.customerId}/money`);
  await clerk.getByRole('table', { name: 'Open invoices' }).waitFor();
  await clerk.keyboard.press('p');
  await clerk.getByLabel(/Amount in/).fill('500');
  await clerk.getByText(/stays on account|goes to invoices/).waitFor();
  await shoot(clerk, 'payment');
  await clerk.goto(`${url}/bank`);
  await clerk.getByRole('cell', { name: 'Lantern Hill School' }).first().click();
  await clerk.getByRole('table', { name: 'Whose it may be' }).waitFor();
  await shoot(clerk, 'bank');
  await clerk.goto(`${url}/ledger/reconciliation`);
  await clerk.getByText('Ledger and books agree.').waitFor();
  await shoot(clerk, 'reconciliation');

  // Packed in part, with the carriers beside.
  const { picking } = await (await page.request.get(`${url}/api/shipping?warehouse=MAR`)).json();
  await page.goto(`${url}/pack/${picking[0].consignment}`);
  await page.getByRole('button', { name: /Open carton/ }).click();
  await page.getByLabel(/Scan goods into carton/).fill(picking[0].lines[0].item);
  await page.keyboard.press('Enter');
  await page
    .getByText(/in carton 1/)
    .first()
    .waitFor();
  await page.keyboard.press('Control+l');
  await page.getByRole('table', { name: 'Carrier services' }).getByText('Ground').waitFor();
  await shoot(page, 'pack');

  const phone = await open('wil', { viewport: { width: 390, height: 844 } });
  await phone.goto(`${url}/pick?warehouse=MAR`);
  await phone.getByRole('article', { name: 'Next bin' }).waitFor();
  await shoot(phone, 'pick-phone');
  await phone.goto(`${url}/counter?warehouse=MAR`);
  await phone.getByRole('button', { name: /New cash sale/ }).click();
  for (const item of ['smk-ss-10', 'qex-n10-wr', 'smk-ss-10']) {
    await phone.getByLabel('Scan goods, or type an item code').fill(item);
    await phone.keyboard.press('Enter');
    await settled();
  }
  await shoot(phone, 'counter-phone');
  await phone.goto(`${url}/receiving/1`);
  await phone.getByRole('button', { name: 'Receive: JAR-340-HX' }).click();
  await shoot(phone, 'receiving-phone');
}
