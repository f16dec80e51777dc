import { expect, test, type Page } from '@playwright/test';
import { another, ask, gloss, leaveFields, line, logIn, quickLine, startOrder, typeLine } from './desk';

const LINK_MS = 700;
const JITTER_MS = 300;
const KEY_MS = 40;
/** What ten lines are typed as, and what they are. */
const TEN: readonly (readonly [text: string, item: string, quantity: string])[] = [
  ['hive tool 4', 'TOL-HIV-J', '4'],
  ['brs 6', 'BRS-BEE-1', '6'],
  ['smk-ss-10 2', 'SMK-SS-10', '2'],
  ['jar-340-hx 3 tray', 'JAR-340-HX', '3'],
  ['lid-063-gd 96', 'LID-063-GD', '96'],
  ['mrk-pen 5', 'MRK-PEN-5', '5'],
  ['clp-qun 7', 'CLP-QUN-1', '7'],
  ['fnd-dn-w 1 box', 'FND-DN-W', '1'],
  ['lid-063-bk 48', 'LID-063-BK', '48'],
  ['fee-pol 9', 'FEE-POL-05', '9'],
];

interface Draft {
  readonly version: number;
  readonly poNumber: string;
  readonly note: string;
  readonly lines: readonly { readonly id: number; readonly lineNo: number; readonly item: string; readonly quantity: string; readonly note: string }[];
}

/** Makes a page's line slow: each answer takes most of a second, and not always the same. */
async function slowLink(page: Page): Promise<void> {
  let at = 0;
  await page.route('**/api/**', async (route) => {
    if (route.request().url().endsWith('/api/live')) return route.continue();
    // As uneven as a bad line, and the same each time.
    at = (at * 7 + 3) % 11;
    await new Promise((resolve) => setTimeout(resolve, LINK_MS + ((at - 5) / 5) * JITTER_MS));
    await route.continue();
  });
}

const idOf = (page: Page) => Number(/orders\/(\d+)/.exec(page.url())![1]);
const readDraft = (page: Page) => ask<Draft>(page, `/orders/${idOf(page)}`);

async function typeTen(page: Page): Promise<void> {
  for (const [text] of TEN) {
    await page.keyboard.type(text, { delay: KEY_MS });
    await page.keyboard.press('Enter');
  }
}

async function expectTen(page: Page): Promise<void> {
  await expect(page.getByRole('list', { name: 'Lines being added' })).toHaveCount(0, { timeout: 60_000 });
  const { lines } = await readDraft(page);
  expect(lines.map(({ item, quantity }) => [item, quantity])).toEqual(TEN.map(([, item, quantity]) => [item, quantity]));
}

test('ten lines typed without a pause over a slow link are in the order as they were typed', async ({ page }) => {
  await logIn(page);
  await startOrder(page, 'wether', 'Wether Hill');
  await slowLink(page);
  await typeTen(page);
  await expect(page.getByText('being added …').first()).toBeVisible();
  await expectTen(page);
});

test('so they are while a colleague edits the same draft', async ({ page, browser }) => {
  await logIn(page);
  await startOrder(page, 'wether', 'Wether Hill');
  const sam = await another(browser, 'sam');
  await sam.goto(page.url());
  await slowLink(page);
  const typing = typeTen(page);
  const po = sam.getByLabel('Customer PO');
  for (let round = 1; round <= 6; round++) {
    await po.fill(`SAM-${round}`);
    await po.press('Enter');
    await expect.poll(async () => (await readDraft(sam)).poNumber).toBe(`SAM-${round}`);
  }
  await typing;
  await expectTen(page);
  expect((await readDraft(page)).poNumber).toBe('SAM-6');
});

test('a line that is refused stands where it was typed, is typed again there, and holds the release until it is seen to', async ({ page }) => {
  await logIn(page);
  await startOrder(page, 'wether', 'Wether Hill');
  await page.keyboard.type('zzz 4');
  await page.keyboard.press('Enter');
  await page.keyboard.type('brs 6');
  await page.keyboard.press('Enter');
  const refused = page.getByLabel('The line again: item, quantity, unit, day');
  await expect(refused).toHaveValue('zzz 4');
  await expect(page.getByRole('list', { name: 'Lines being added' })).toContainText('There is no item that matches “zzz”.');
  await expect(line(page, 1)).toContainText('BRS-BEE-1');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('“zzz 4” is not in the order')).toBeVisible();
  await page.keyboard.press('ArrowUp');
  await expect(refused).toBeFocused();
  await refused.fill('smk-ss-10 2');
  await page.keyboard.press('Enter');
  await expect(line(page, 2)).toContainText('SMK-SS-10');
  await expect(quickLine(page)).toBeFocused();
  // What is typed and not added is not left behind by a release, either.
  await page.keyboard.type('lid-063-gd 48');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('is typed and not added')).toBeVisible();
  await expect(quickLine(page)).toHaveValue('lid-063-gd 48');
});

test('what is typed and not saved survives a closed tab', async ({ page }) => {
  await logIn(page);
  await startOrder(page, 'wether', 'Wether Hill');
  await page.keyboard.type('smk-ss-10 12 fr');
  await page.getByLabel('Customer PO').pressSequentially('WH-99');
  const url = page.url();
  const again = await page.context().newPage();
  await page.close();
  await again.goto(url);
  await expect(quickLine(again)).toHaveValue('smk-ss-10 12 fr');
  await expect(again.getByLabel('Customer PO')).toHaveValue('WH-99');
  await again.getByLabel('Customer PO').press('Enter');
  await expect.poll(async () => (await readDraft(again)).poNumber).toBe('WH-99');
});

test('two in one draft: what does not collide is merged, what does is shown as mine and theirs, a release says what of mine is not in it', async ({
  page,
  browser,
}) => {
  await logIn(page);
  await startOrder(page, 'wether', 'Wether Hill');
  await typeLine(page, 'lid-070-gd 10', 'LID-070-GD');
  const sam = await another(browser, 'sam');
  await sam.goto(page.url());
  await expect(line(sam, 1)).toContainText('LID-070-GD');

  // Ida is about to type 12; meanwhile Sam makes it 7.
  await leaveFields(page);
  await page.keyboard.press('ArrowUp');
  await page.keyboard.press('Enter');
  const mine = page.getByLabel('Quantity, unit and day of line 1');
  await expect(mine).toBeFocused();
  await mine.fill('12');
  await leaveFields(sam);
  await sam.keyboard.press('ArrowUp');
  await sam.keyboard.press('Enter');
  await sam.getByLabel('Quantity, unit and day of line 1').fill('7');
  await sam.keyboard.press('Tab');
  await expect.poll(async () => (await readDraft(sam)).lines[0]!.quantity).toBe('7');
  await expect(mine).toHaveValue('12');
  await page.keyboard.press('Enter');
  await expect(page.getByText('Quantity: yours “12”, Sam')).toBeVisible();
  expect((await readDraft(page)).lines[0]!.quantity).toBe('7');
  await page.getByRole('button', { name: 'Keep mine' }).click();
  await expect.poll(async () => (await readDraft(page)).lines[0]!.quantity).toBe('12');

  // The text of the line is mine, its quantity theirs: both stand.
  await line(page, 1).focus();
  await gloss(page).getByLabel('Text', { exact: true }).pressSequentially('blue handles');
  // What Sam types over is what Ida kept: before it has come there it would collide again.
  await expect(line(sam, 1)).toContainText('12');
  await line(sam, 1).focus();
  await sam.keyboard.press('Enter');
  await sam.getByLabel('Quantity, unit and day of line 1').fill('9');
  await sam.keyboard.press('Enter');
  await expect(line(page, 1)).toContainText('9');
  await expect(gloss(page).getByLabel('Text', { exact: true })).toHaveValue('blue handles');
  await page.keyboard.press('Enter');
  await expect.poll(async () => (await readDraft(page)).lines[0]).toMatchObject({ quantity: '9', note: 'blue handles' });

  // Sam releases while Ida types the order number and another line.
  await expect(line(sam, 1)).toContainText('blue handles');
  await quickLine(page).pressSequentially('smk-ss-10 2');
  await page.getByLabel('Customer PO').pressSequentially('WH-1');
  await sam.keyboard.press('Control+Enter');
  const left = page.getByRole('alert', { name: 'Typed and not in the order' });
  await expect(left).toContainText('smk-ss-10 2');
  await expect(left).toContainText(/Customer PO\s*WH-1/);
  // Who released it is said, not what somebody did to the draft before.
  await expect(left).toContainText(/Sam [A-Z]\S* released order \d+ while you typed/);
});
