import { expect, test, type Page } from '@playwright/test';
import { logIn } from './desk';

/** The row of a list that has a text, with the focus. */
async function focusRow(page: Page, table: string, text: string): Promise<void> {
  const row = page.getByRole('table', { name: table }).locator('tbody tr').filter({ hasText: text }).first();
  await expect(row).toBeVisible();
  await row.focus();
}

test('a file of the bank is booked once, the sure by one key, the doubtful by a look', async ({ page }) => {
  await logIn(page, 'fay');
  await page.goto('/bank');
  await expect(page.getByRole('button', { name: /Book \d+ that are sure/ })).toBeVisible();
  await page.keyboard.press('b');
  await expect(page.getByText(/Booked \d+ payments\./)).toBeVisible();

  await test.step('what nothing names stands beside whose it may be', async () => {
    await page.getByRole('cell', { name: 'Lantern Hill School' }).first().click();
    const whose = page.getByRole('table', { name: 'Whose it may be' });
    await expect(whose).toContainText('the same name');
    await page.keyboard.press('1');
    await page.keyboard.press('Control+Enter');
    await expect(page.getByText(/Booked [\d.,]+ for Lantern Hill School\./)).toBeVisible();
  });

  await test.step('the same file twice does nothing twice; one that is wrong says where', async () => {
    const file = (content: string) => page.locator('#bank-file').setInputFiles({ name: 'march.csv', mimeType: 'text/csv', buffer: Buffer.from(content) });
    const right = 'Day;Amount;Payer;Text;Id\n2027-03-08;12,40;A stranger;hello;X1\n2027-03-08;-3,00;Bank;fee;X2\n';
    await file(right);
    await expect(page.getByText('march.csv: 2 movements.')).toBeVisible();
    await file(right);
    await expect(page.getByText('march.csv: 2 movements, 0 of them new.')).toBeVisible();
    await file('Day;Amount\nsoon;1\n');
    await expect(page.getByRole('alert').filter({ hasText: 'line 2: day: expected a day as 2027-03-09, got soon' })).toBeVisible();
  });

  await test.step('what is no payment is set aside with why', async () => {
    await page.getByRole('cell', { name: '−3.00' }).click();
    await expect(page.getByText('This went out')).toBeVisible();
    await page.keyboard.press('x');
    await page.getByRole('textbox', { name: 'Why' }).fill('account fee');
    await page.keyboard.press('Control+Enter');
    await expect(page.getByText('Set aside.')).toBeVisible();
  });
});

test('a supplier invoices another price: it is held, accepted with why, paid; the ledger agrees and a month is closed', async ({ page }) => {
  await logIn(page, 'fay');
  await page.goto('/supply/invoices');
  await focusRow(page, 'Supplier invoices', '88301');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('heading', { name: 'What does not match' })).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await page.getByRole('textbox', { name: 'Why' }).fill('agreed by telephone');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('button', { name: /Record as paid/ })).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByText('Paid', { exact: true })).toBeVisible();

  await page.goto('/ledger/reconciliation');
  await expect(page.getByText('Ledger and books agree.')).toBeVisible();
  await page.keyboard.press('c');
  await expect(page.getByRole('table', { name: 'Months' })).toContainText(/closed .* by Fay Lindqvist/);

  await test.step('from an entry to its paper, and back', async () => {
    await page.goto('/ledger/entries?q=88301');
    const entries = page.getByRole('table', { name: 'Entries of the ledger' });
    await expect(entries).toContainText('Stock, FEE-SYR-14');
    await entries.getByRole('link', { name: '88301' }).first().click();
    await expect(page.getByRole('heading', { level: 1 })).toContainText('88301');
    await page.getByRole('link', { name: 'In the ledger' }).click();
    await expect(page.getByRole('table', { name: 'Entries of the ledger' })).toContainText('Payables');
  });
});
