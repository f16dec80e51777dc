import { expect, test } from '@playwright/test';
import { another, gloss, leaveFields, logIn, quickLine, typeLine } from './desk';

const THEIRS = 'OM-7741';

test('a customer is found, their record and contacts are kept, and an order names an item as they do', async ({ page, browser }) => {
  await logIn(page);
  await leaveFields(page);
  await page.keyboard.press('/');
  await expect(page.getByLabel(/^Find any/)).toBeFocused();
  await page.keyboard.type('old mill');
  await expect(page.getByRole('option', { name: /Old Mill Wholefoods/ })).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { level: 1 })).toContainText('Old Mill Wholefoods');
  const address = page.url();

  // What is wrong is named by its field, and what was typed stays.
  await page.keyboard.press('e');
  await expect(page.getByLabel('Name', { exact: true })).toBeFocused();
  await page.getByLabel('Priority, 1 highest to 9').fill('0');
  await page.getByLabel('Phone').fill('01632 960 555');
  await page.keyboard.press('Control+Enter');
  await expect(gloss(page).getByRole('alert')).toHaveText('Priority: expected 1 or more.');
  // A colleague was first: nothing of theirs is lost.
  const colleague = await another(browser, 'mona');
  await colleague.goto(address);
  await expect(colleague.getByRole('heading', { name: 'What they buy' })).toBeVisible();
  await colleague.keyboard.press('e');
  await colleague.getByLabel('Contact', { exact: true }).fill('Miriam Oldroyd');
  await colleague.keyboard.press('Control+Enter');
  await expect(page.locator('dd').getByText('Miriam Oldroyd')).toBeVisible();
  await page.getByLabel('Priority, 1 highest to 9').fill('4');
  await page.keyboard.press('Control+Enter');
  await expect(gloss(page).getByRole('alert')).toContainText('changed contact');
  await page.keyboard.press('Escape');
  await page.keyboard.press('e');
  await page.getByLabel('Phone').fill('01632 960 555');
  await page.keyboard.press('Control+Enter');
  await expect(page.locator('dd').getByText('01632 960 555')).toBeVisible();
  await expect(page.locator('dd').getByText('Miriam Oldroyd')).toBeVisible();

  await page.keyboard.press('i');
  await page.getByLabel('Name', { exact: true }).fill('Josie Holt');
  await page.getByLabel('Role').fill('Goods in');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('table', { name: 'Contacts' })).toContainText('Josie Holt');

  // What they call an item: set at what they buy, then typed in an order.
  const bought = page.getByRole('table', { name: 'What they buy' }).locator('tbody tr').first();
  const item = (await bought.getByRole('link').innerText()).trim();
  await bought.focus();
  await page.keyboard.press('Enter');
  await page.getByLabel('Customer’s item number').fill(THEIRS);
  await page.keyboard.press('Control+Enter');
  await expect(bought).toContainText(THEIRS);
  await page.keyboard.press('Control+Enter');
  await expect(quickLine(page)).toBeFocused();
  await typeLine(page, `${THEIRS.toLowerCase()} 2`, item);
  await expect(page.getByRole('table', { name: 'Lines of the order' })).toContainText(THEIRS);

  // Their name leads back to them, where the draft stands among their orders.
  await page.getByRole('heading', { level: 1 }).getByRole('link').click();
  await expect(page.getByRole('table', { name: 'Orders and quotes' })).toContainText('draft');
});

test('an item is found by its size and by what else it is called', async ({ page }) => {
  await logIn(page);
  await leaveFields(page);
  await page.keyboard.press('/');
  await expect(page.getByLabel(/^Find any/)).toBeFocused();
  await page.keyboard.type('suit large');
  await expect(page.getByRole('option').first()).toContainText('SUT-VNT-L');
});
