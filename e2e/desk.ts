import { randomUUID } from 'node:crypto';
import { readFile } from 'node:fs/promises';
import { join } from 'node:path';
import { expect, type Browser, type Page } from '@playwright/test';

export const PASSWORD = 'honey-and-wax';

/** Logs in by keyboard, as every story begins; anything the page complains about in the console fails the story. */
export async function logIn(page: Page, login = 'ida'): Promise<void> {
  page.on('console', (message) => {
    if (message.type() === 'error' && !message.text().includes('status of 4')) throw new Error(`the page complains: ${message.text()}`);
  });
  page.on('pageerror', (error) => {
    throw error;
  });
  await page.goto('/');
  await expect(page.getByLabel('Name')).toBeFocused();
  await page.keyboard.type(login);
  await page.keyboard.press('Tab');
  await page.keyboard.type(PASSWORD);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'Orders' })).toBeVisible();
}

/** A page of its own, with its own cookie, as another person has. */
export async function another(browser: Browser, login: string): Promise<Page> {
  const context = await browser.newContext();
  const page = await context.newPage();
  await logIn(page, login);
  return page;
}

/** Starts an order for the customer whom a fragment finds, by keyboard alone. */
export async function startOrder(page: Page, fragment: string, name: string): Promise<void> {
  await leaveFields(page);
  await page.keyboard.press('n');
  await expect(page.getByLabel('Who is calling?')).toBeFocused();
  await page.keyboard.type(fragment);
  await expect(page.getByRole('option').first()).toContainText(name);
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText(name);
  await expect(quickLine(page)).toBeFocused();
}

/** The options that stand under the line that is looked at. */
export const options = (page: Page) => page.locator('tr.option');

/** At which place an option stands whose words match, counted from 1; 0 where there is none that can be taken. */
export async function optionAt(page: Page, words: RegExp): Promise<number> {
  const texts = await options(page).evaluateAll((rows) =>
    rows.map((row) =>
      (row.querySelector('button') as HTMLButtonElement | null)?.disabled === false ? (row as HTMLElement).innerText.replace(/\s+/g, ' ') : '',
    ),
  );
  return texts.findIndex((text) => text !== '' && words.test(text)) + 1;
}

/** The promises that a change would move, as they stand on the sheet. */
export const movers = (page: Page) => page.getByRole('table', { name: 'Promises that move' });

export const quickLine = (page: Page) => page.getByLabel('New line: item, quantity, unit, day');

/** Types a line and waits until what it means and when it leaves stand on the sheet; Enter adds it. */
export async function typeLine(page: Page, text: string, item: string): Promise<void> {
  const lines = page.getByRole('table', { name: 'Lines of the order' });
  // A line before this one that is on its way is no line yet; it would be counted as this one.
  await expect(page.getByRole('list', { name: 'Lines being added' })).toBeHidden();
  const before = await lines.locator('tbody tr:not(.preview):not(.none)').count();
  await page.keyboard.type(text);
  await expect(lines.locator('tr.preview')).toContainText(item);
  await page.keyboard.press('Enter');
  await expect(lines.locator('tbody tr:not(.preview):not(.none)')).toHaveCount(before + 1);
  await expect(quickLine(page)).toHaveValue('');
}

/** Single letters are keys only outside of fields: gives the focus to the page. */
export async function leaveFields(page: Page): Promise<void> {
  await page.keyboard.press('Escape');
}

export const line = (page: Page, number: number) =>
  page
    .getByRole('table', { name: 'Lines of the order' })
    .locator('tbody tr:not(.option, .options)')
    .nth(number - 1);
export const gloss = (page: Page) => page.getByRole('complementary');

/** Asks the API as the page's user. */
export async function ask<R>(page: Page, path: string): Promise<R> {
  const response = await page.request.get(`/api${path}`);
  expect(response.status()).toBe(200);
  return (await response.json()) as R;
}

/** Chooses in a closed list by typing the beginning of a word, as the keyboard does. */
export async function choose(page: Page, label: string, word: string): Promise<void> {
  const list = page.getByRole('combobox', { name: label, exact: true });
  await list.focus();
  await page.keyboard.type(word);
  await expect(list).toContainText(new RegExp(word, 'i'));
}

/** Sends what a page of its own would: to set a story up. */
export async function send<R>(page: Page, path: string, data: unknown, method: 'POST' | 'PUT' = 'POST'): Promise<R> {
  const response = await page.request.fetch(`/api${path}`, { method, data, headers: { 'Idempotency-Key': randomUUID() } });
  expect([path, response.status(), response.ok() ? '' : await response.text()]).toEqual([path, 200, '']);
  return (await response.json()) as R;
}

/** A mail as it lies in its recipient's mailbox, once it is there. */
export async function inMailbox(mail: number): Promise<string> {
  const mailboxes = (process.env['NOCK_MAILBOX'] ?? '').split(',');
  const file = join(mailboxes[Number(process.env['TEST_PARALLEL_INDEX'] ?? 0) % mailboxes.length]!, `mail-${mail}.eml`);
  await expect.poll(() => readFile(file, 'utf8').catch(() => '')).not.toBe('');
  // Long lines come in pieces: RFC 2045, section 6.7.
  return (await readFile(file, 'utf8')).replace(/=\r?\n/g, '').replace(/=3D/g, '=');
}
