import { expect, test, type Page } from '@playwright/test';
import { another, ask, choose, gloss, line, logIn, quickLine, startOrder, typeLine } from './desk';

const MAIL = `Hi Ida,

hope the bees wintered well.
Our purchase order: HX/322, could everything be delivered by Thursday 18 March?

20 trays hexagonal jars 340
480 gold lids 63
4 boxes foundaton deep wired
jars 227
6 flux capacitors

Best wishes
Tobias`;

/** Counts key strokes but those that type text: codes, quantities, units, days. */
class Strokes {
  count = 0;
  constructor(private readonly page: Page) {}

  async press(key: string) {
    this.count++;
    await this.page.keyboard.press(key);
  }
}

/** Pastes as a person does: by the clipboard. */
async function paste(page: Page, text: string) {
  await page.context().grantPermissions(['clipboard-read', 'clipboard-write']);
  await page.evaluate((value) => navigator.clipboard.writeText(value), text);
  await page.keyboard.press('Control+v');
}

const proposals = (page: Page) => page.getByRole('table', { name: 'Proposed lines' }).locator('tbody tr');

test('an order of ten lines in mixed units takes few key strokes beyond the text', async ({ page }, info) => {
  await logIn(page);
  const keys = new Strokes(page);
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await keys.press('n');
  await expect(page.getByLabel('Who is calling?')).toBeFocused();
  await page.keyboard.type('brackenfold');
  await expect(page.getByRole('option', { name: /Brackenfold/ })).toBeVisible();
  await keys.press('Enter');
  await expect(quickLine(page)).toBeFocused();
  const lines = [
    ['jar-340-hx 20 tray', 'JAR-340-HX'],
    ['lid-063-gd 960', 'LID-063-GD'],
    ['fnd-dn-w 4 box fri', 'FND-DN-W'],
    ['bee brush 2 dozen', 'BRS-BEE-1'],
    ['smk-ss-10 6', 'SMK-SS-10'],
    ['lth-9 12 pair', 'GLV-LTH-9'],
    ['invert syrup 8', 'FEE-SYR-14'],
    ['oxalic 2 box', 'TRT-OXA-035'],
    ['frm-dn-4 1 box', 'FRM-DN-4'],
    ['entrance 10 mon', 'ENT-RED-N'],
  ] as const;
  for (const [at, [text, item]] of lines.entries()) {
    await page.keyboard.type(text);
    await expect(line(page, at + 1)).toContainText(item);
    await keys.press('Enter');
    await expect(quickLine(page)).toHaveValue('');
  }
  await expect(page.getByRole('table', { name: 'Lines of the order' }).locator('tbody tr')).toHaveCount(10);
  const said = `a 10-line order in mixed units: ${keys.count} key strokes beyond the text`;
  info.annotations.push({ type: 'key strokes', description: said });
  process.stdout.write(`${said}\n`);
  expect(keys.count).toBeLessThanOrEqual(60);
});

test('a mail becomes lines: a spelling mistake, a choice, something that is sold nowhere', async ({ page }) => {
  await logIn(page);
  await startOrder(page, 'hexcombe', 'Hexcombe Honey Farm');
  await paste(page, MAIL);
  await expect(proposals(page)).toHaveCount(5);
  await expect(page.getByText('their order number HX/322')).toBeVisible();
  await expect(page.getByRole('checkbox', { name: /deliver by Thu 18 Mar/ })).toBeVisible();
  await expect(page.getByText('“hope the bees wintered well.”')).toBeVisible();
  await expect(proposals(page).nth(2)).toContainText('“foundaton” taken for foundation');
  await expect(proposals(page).nth(3)).toContainText('several are called so');

  await test.step('it is not added before everything is settled', async () => {
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('alert')).toContainText('“jars 227” is not settled');
    await expect(proposals(page).nth(3)).toBeFocused();
  });

  await test.step('a line is typed again, another dropped', async () => {
    await page.keyboard.press('Enter');
    await page.keyboard.type('jar-227-hx 5 tray');
    await page.keyboard.press('Enter');
    await expect(proposals(page).nth(3)).toContainText('JAR-227-HX');
    await expect(proposals(page).nth(3)).toBeFocused();
    await page.keyboard.press('ArrowDown');
    await expect(proposals(page).nth(4)).toContainText('not found');
    await page.keyboard.press('Delete');
    await expect(proposals(page)).toHaveCount(4);
    await page.keyboard.press('Control+Enter');
  });

  await expect(line(page, 4)).toContainText('JAR-227-HX');
  await expect(page.getByLabel('Customer PO')).toHaveValue('HX/322');
  await expect(line(page, 3)).toContainText('K1004 line 1');
  await expect(quickLine(page)).toBeFocused();
});

test('rows of a spreadsheet become lines by their columns, which are shown and corrected', async ({ page }) => {
  await logIn(page);
  await startOrder(page, 'hexcombe', 'Hexcombe Honey Farm');
  await paste(page, 'JAR-340-HX\t4\t20\ttray\nLID-063-GD\t1\t480\teach');
  await expect(proposals(page)).toHaveCount(2);
  await expect(proposals(page).first()).toContainText('4 trays');
  await choose(page, 'Column 2 of the table', 'not');
  await choose(page, 'Column 3 of the table', 'quan');
  await expect(proposals(page).first()).toContainText('20 trays');
  await page.keyboard.press('Control+Enter');
  await expect(line(page, 1)).toContainText('JAR-340-HX');
  await expect(line(page, 2)).toContainText('480');
});

test('two contracts hold for the same jars: one is chosen, one is split where it ends, and each line says which', async ({ page }) => {
  await logIn(page);
  await startOrder(page, 'wether', 'Wether Hill Honey Co-operative');
  await typeLine(page, 'jar-340-hx 40 tray', 'JAR-340-HX');
  await expect(line(page, 1)).toContainText('K1002 line 1');
  await page.keyboard.press('ArrowUp');
  await expect(line(page, 1)).toBeFocused();
  await expect(gloss(page)).toContainText('the lowest of those that hold');

  await test.step('the next that holds is taken by key, and the trail says so', async () => {
    await page.keyboard.press('t');
    await expect(line(page, 1)).toContainText('K1003 line 1');
    await expect(gloss(page)).toContainText('chosen by hand');
    await expect(gloss(page)).toContainText('Wether Hill spring offer');
  });

  await test.step('fewer than the contract asks for at once: a price by hand needs a reason', async () => {
    await page.keyboard.press('Escape');
    await typeLine(page, 'jar-340-hx 10 tray', 'JAR-340-HX');
    await page.keyboard.press('ArrowUp');
    await expect(line(page, 2)).toBeFocused();
    await expect(gloss(page)).toContainText('needs 480 at once');
    await page.keyboard.press('p');
    await page.keyboard.type('cheap');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('alert')).toContainText('“cheap” is no price');
    await page.keyboard.press('Control+a');
    await page.keyboard.type('10.70');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('alert')).toContainText('Why this price?');
    await page.keyboard.type('agreed with the chairwoman');
    await page.keyboard.press('Enter');
    await expect(line(page, 2)).toContainText('set by hand');
  });

  await test.step('a quantity that changes the price shows both until one is taken', async () => {
    await page.keyboard.press('Escape');
    await typeLine(page, 'lid-063-bk 240', 'LID-063-BK');
    await page.keyboard.press('ArrowUp');
    await page.keyboard.press('Enter');
    await page.keyboard.press('Control+a');
    await page.keyboard.type('1 carton');
    await page.keyboard.press('Enter');
    await expect(line(page, 3)).toContainText('now ');
    await expect(gloss(page).getByRole('group', { name: 'The price has changed' })).toBeVisible();
    await page.keyboard.press('y');
    await expect(line(page, 3)).not.toContainText('now ');
  });
});

test('a price below the floor is held; the manager lets it go, and the desk releases it', async ({ page, browser }) => {
  await logIn(page);
  await startOrder(page, 'tallow', 'Tallow Bridge Candles');
  await typeLine(page, 'smk-ss-10 2', 'SMK-SS-10');
  await page.keyboard.press('ArrowUp');
  await expect(gloss(page).locator('#by-hand')).toBeVisible();
  await page.keyboard.press('p');
  await expect(gloss(page).locator('#by-hand')).toBeFocused();
  await page.keyboard.type('20.10');
  await page.keyboard.press('Tab');
  await page.keyboard.type('last year’s price');
  await page.keyboard.press('Enter');
  await expect(line(page, 1)).toContainText('set by hand');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('alert')).toContainText('It is held and not released');
  await page.keyboard.press('Escape');
  await expect(gloss(page)).toContainText('Held: price below the floor.');
  await expect(gloss(page)).toContainText('A manager may release the hold.');

  const manager = await another(browser, 'mona');
  await manager.goto(page.url());
  await manager.getByLabel('Why it may be released: price below the floor').fill('keeps a good customer');
  await manager.keyboard.press('Enter');
  await expect(gloss(manager)).toContainText('Mona Reyes released the hold: keeps a good customer');
  // The coordinator sees it without reloading.
  await expect(gloss(page)).toContainText('Mona Reyes released the hold');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText(/Released as order \d+/)).toBeVisible();
  await manager.context().close();
});

test('the manager pastes a contract from a spreadsheet; wrong rows are told by line', async ({ page }) => {
  await logIn(page, 'mona');
  await page.goto('/prices');
  await page.getByRole('button', { name: 'New contract' }).click();
  await expect(page.getByRole('heading', { level: 1 })).toContainText('New contract');
  await page.getByLabel('Name', { exact: true }).fill('Kettleby tools');
  await page.keyboard.press('Enter');
  await page.getByLabel('Add a customer to the contract').fill('kettleby');
  await page.getByRole('option', { name: /Kettleby/ }).click();
  // The history names it as well, once it is read again.
  await expect(page.getByText('Kettleby Bee Supplies off')).toBeVisible();
  await page.evaluate(() => (document.activeElement as HTMLElement | null)?.blur());
  await page.keyboard.press('v');
  await expect(page.getByLabel('Paste rows from a spreadsheet, or type them')).toBeFocused();
  await paste(page, 'item\tunit\tprice\tmost\nsmk-ss-10\teach\t27,50\t40\nfrk-unc-1\tbarrel\t6.10\t\n');
  await expect(page.getByText('line 3, unit: barrel is no unit')).toBeVisible();
  await expect(page.getByRole('button', { name: /Write 1 row/ })).toBeDisabled();
  await page.keyboard.press('Control+a');
  await paste(page, 'item\tunit\tprice\tmost\nsmk-ss-10\teach\t27,50\t40\nfrk-unc-1\teach\t6.10\t\n');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('table', { name: 'Lines of the contract' }).locator('tbody tr')).toHaveCount(2);

  const contracts = await ask<readonly { readonly name: string; readonly customers: string; readonly lines: number }[]>(page, '/contracts?state=in_force');
  expect(contracts).toContainEqual(expect.objectContaining({ name: 'Kettleby tools', customers: 'Kettleby Bee Supplies', lines: 2 }));
});
