import { expect, test, type Page } from '@playwright/test';
import { TOTP, Secret } from 'otpauth';
import { another, gloss, logIn } from './desk';

const users = (page: Page) => page.getByRole('table', { name: 'Users' }).locator('tbody tr');

async function type(page: Page, login: string, password: string): Promise<void> {
  await page.goto('/log-in');
  await page.getByLabel('Name').fill(login);
  await page.getByLabel('Password').fill(password);
  await page.keyboard.press('Enter');
}

test('a manager makes a user by keyboard; they choose a password, begin with time codes, and are shut out in the end', async ({ page, browser }) => {
  await logIn(page, 'mona');
  await page.getByRole('button', { name: /Mona Reyes/ }).click();
  await page.getByRole('menuitem', { name: 'Users' }).click();
  await expect(users(page)).toHaveCount(5);
  await page.keyboard.press('a');
  await expect(page.getByRole('textbox', { name: 'Login name' })).toBeFocused();
  await page.keyboard.type('nell');
  await page.keyboard.press('Tab');
  await page.keyboard.type('Nell Harrow');
  await page.getByLabel(/^Password, at least/).fill('short');
  await page.keyboard.press('Control+Enter');
  await expect(gloss(page).getByRole('alert')).toContainText('at least 12 characters');
  await page.getByLabel(/^Password, at least/).fill('given by mona 1');
  await page.keyboard.press('Control+Enter');
  const row = users(page).filter({ hasText: 'Nell Harrow' });
  await expect(row).toContainText('must change password');

  const nell = await (await browser.newContext()).newPage();
  await type(nell, 'nell', 'given by mona 1');
  await expect(nell.getByText('set by a manager')).toBeVisible();
  // No other page opens before.
  await nell.goto('/orders');
  await expect(nell.getByRole('heading', { name: 'Your log-in' })).toBeVisible();
  await nell.getByLabel('Current password').fill('given by mona 1');
  await nell.getByLabel('New password, at least 12 characters').fill('meadow and clover');
  await nell.getByLabel('Repeat new password').fill('meadow and clover');
  await nell.keyboard.press('Enter');
  await expect(nell.getByRole('heading', { name: 'Orders' })).toBeVisible();
  await expect(row).not.toContainText('must change');

  await nell.goto('/you');
  await nell.getByLabel('Your password').fill('meadow and clover');
  await nell.keyboard.press('Enter');
  const key = (await nell.locator('.key').textContent())!;
  const code = (shift: number) => new TOTP({ secret: Secret.fromBase32(key) }).generate({ timestamp: Date.now() + shift * 30_000 });
  await nell.getByLabel('Six-digit code').fill('123');
  await nell.keyboard.press('Enter');
  await expect(nell.getByRole('form', { name: 'Second factor' }).getByRole('alert')).toContainText('wrong code');
  await nell.getByLabel('Six-digit code').fill(code(0));
  await nell.keyboard.press('Enter');
  await expect(nell.getByText('asks for a six-digit code')).toBeVisible();

  const telephone = await (await browser.newContext({ viewport: { width: 390, height: 780 } })).newPage();
  await type(telephone, 'nell', 'meadow and clover');
  await expect(telephone.getByLabel('Six-digit code')).toBeFocused();
  await telephone.keyboard.type(code(1));
  await telephone.keyboard.press('Enter');
  await expect(telephone.getByRole('heading', { name: 'Orders' })).toBeVisible();

  await users(page).filter({ hasText: 'Nell Harrow' }).focus();
  await expect(gloss(page).getByRole('list', { name: 'Sessions' }).getByRole('listitem')).toHaveCount(2);
  await page.getByRole('button', { name: 'Disable user' }).click();
  await expect(row).toContainText('disabled');
  await telephone.goto('/orders');
  await expect(telephone.getByRole('heading', { name: 'Nockwright' })).toBeVisible();
  // Nobody takes their own rights away.
  await users(page).filter({ hasText: 'Mona Reyes' }).focus();
  await page.getByRole('button', { name: 'Disable user' }).click();
  await expect(page.getByRole('alert').filter({ hasText: 'another manager' })).toBeVisible();
});

test('the warehouse sees what its work needs: goods and days, no cost, margin or account, and no door that is shut', async ({ browser }) => {
  const wil = await another(browser, 'wil');
  const refused: string[] = [];
  wil.on('response', (response) => response.status() === 403 && refused.push(response.url()));
  await expect(wil.getByRole('navigation', { name: 'Work areas' }).getByRole('link')).toHaveText(['Orders', 'Supply', /^Shipping( \d+)?$/, 'Items']);
  for (const path of ['/orders/1', '/items/JAR-340-HX', '/supply/1', '/receiving', '/shipping', '/items/places', '/supply/inside', '/you']) {
    await wil.goto(path);
    await expect(wil.getByRole('heading', { level: 1 })).toBeVisible();
    await expect(wil.locator('main a[href^="/customers/"]')).toHaveCount(0);
    await expect(wil.getByText(/margin|credit:/i).filter({ visible: true })).toHaveCount(0);
  }
  expect(refused).toEqual([]);
});
