// How long it takes from a key that changes a quantity until the promise of it is painted, in Chromium, measured in the page: a
// draft of 20 lines on the demo. Prints its figures as JSON. NOCK_URL: a server with the demo and the pages.
import { randomUUID } from 'node:crypto';
import { chromium, type Page } from '@playwright/test';
import { DEMO_PASSWORD } from '../demo/scenario/partners';
import { percentile, type Figure } from './measure';
import { setting } from './setting';

const LINES = 20;
const KEYS = 60;
const WARM = 10;
const MOST_MS = 50;
const ITEMS = ['JAR-454-RD', 'JAR-340-HX', 'BRS-BEE-1'];
const [ITEM] = ITEMS as [string];
const url = setting('NOCK_URL');

declare global {
  interface Window {
    /** Milliseconds from each key to the frame that shows what it does. */
    nockPainted?: number[];
  }
}

async function draftOf(page: Page, lines: number): Promise<number> {
  const send = async <R>(path: string, data: object): Promise<R> => {
    const response = await page.request.post(`${url}/api${path}`, { data, headers: { 'idempotency-key': randomUUID(), origin: url } });
    if (!response.ok()) throw new Error(`${path}: ${response.status()} ${await response.text()}`);
    return (await response.json()) as R;
  };
  const { id, version } = await send<{ id: number; version: number }>('/orders', { customer: 1 });
  const wishes = Array.from({ length: lines }, (_, at) => ({ item: ITEMS[at % ITEMS.length]!, quantity: '1' }));
  await send(`/orders/${id}/lines/many`, { version, lines: wishes });
  return id;
}

/** Notes for each key from now on when the row of what is typed has been painted with it. */
async function watch(page: Page): Promise<void> {
  await page.evaluate(() => {
    const painted: number[] = [];
    window.nockPainted = painted;
    let began: number | null = null;
    document.addEventListener('keydown', () => (began = performance.now()), { capture: true });
    const table = document.querySelector('table[aria-label="Lines of the order"]')!;
    new MutationObserver(() => {
      if (began === null) return;
      const from = began;
      began = null;
      // A task that is posted in a frame runs when that frame has been painted.
      requestAnimationFrame(() => {
        const { port1, port2 } = new MessageChannel();
        port1.onmessage = () => painted.push(performance.now() - from);
        port2.postMessage(null);
      });
    }).observe(table, { subtree: true, childList: true, characterData: true });
  });
}

async function main(): Promise<void> {
  const browser = await chromium.launch({ executablePath: '/usr/bin/chromium', args: ['--no-sandbox', '--disable-gpu'] });
  const page = await browser.newPage({ baseURL: url, viewport: { width: 1280, height: 800 } });
  await page.goto('/');
  await page.getByLabel('Name').fill('ida');
  await page.getByLabel('Password').fill(DEMO_PASSWORD);
  await page.keyboard.press('Enter');
  await page.getByRole('heading', { name: 'Orders' }).waitFor();
  await page.goto(`/orders/${await draftOf(page, LINES)}`);
  const field = page.getByLabel('New line: item, quantity, unit, day');
  await field.focus();
  const typed = page.getByRole('table', { name: 'Lines of the order' }).locator('tr.preview');
  await page.keyboard.type(`${ITEM} 1`);
  await typed.filter({ hasText: ITEM }).waitFor();
  await watch(page);
  for (let at = 0; at < WARM + KEYS; at++) {
    // 1, 12, 1, 12 …: each key changes the quantity and the promise.
    await page.keyboard.press(at % 2 === 0 ? '2' : 'Backspace');
    await page.waitForFunction((count) => window.nockPainted!.length >= count, at + 1);
    const row = await typed.innerText();
    const quantity = at % 2 === 0 ? '12' : '1';
    if (!new RegExp(`\\b${quantity}\\b`).test(row)) throw new Error(`what was painted is not what was typed, ${quantity}: ${row}`);
  }
  const painted = (await page.evaluate(() => window.nockPainted!)).slice(WARM).sort((a, b) => a - b);
  await browser.close();
  const figure = (share: number, target?: number): Figure => ({
    name: `key stroke to painted promise in Chromium, a draft of ${LINES} lines, p${share * 100}`,
    ratio: percentile(painted, share) / MOST_MS,
    against: `${MOST_MS} ms`,
    ...(target === undefined ? {} : { target }),
  });
  console.log(JSON.stringify([figure(0.5), figure(0.95, 1)]));
}

await main();
