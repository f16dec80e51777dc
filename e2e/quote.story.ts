import { randomUUID } from 'node:crypto';
import { expect, test, type Page } from '@playwright/test';
import { another, ask, choose, gloss, leaveFields, line, logIn, quickLine, typeLine } from './desk';

const heading = (page: Page) => page.getByRole('heading', { level: 1 });

test('a quote with an alternative goes out by mail, prices change, and the customer takes it with the alternative', async ({ page, browser }) => {
  await logIn(page);
  await test.step('it is written by keyboard; what is wrong is told', async () => {
    await leaveFields(page);
    await page.keyboard.press('n');
    await expect(page.getByLabel('Who is calling?')).toBeFocused();
    await page.keyboard.type('sable');
    await expect(page.getByRole('option').first()).toContainText('Sable & Finch');
    await page.keyboard.press('Shift+Enter');
    await expect(heading(page)).toContainText('Quote');
    await expect(quickLine(page)).toBeFocused();
    await typeLine(page, 'jar-340-hx 12 tray', 'JAR-340-HX');
    await typeLine(page, 'lid-063-gd 288', 'LID-063-GD');
    await page.keyboard.type('or jar-340-rd');
    await page.keyboard.press('Enter');
    await expect(page.getByRole('alert').filter({ hasText: 'How many?' })).toBeVisible();
    // It stands where it was typed, and is put right there.
    await page.keyboard.press('ArrowUp');
    await page.keyboard.press('End');
    await page.keyboard.type(' 12 tray');
    await page.keyboard.press('Enter');
    await expect(line(page, 3)).toContainText('or');
    // It was meant instead of line 1.
    await page.keyboard.press('ArrowUp');
    await expect(line(page, 3)).toBeFocused();
    await page.getByRole('combobox', { name: 'Offered' }).focus();
    await page.keyboard.press('ArrowUp');
    await expect(page.getByRole('combobox', { name: 'Offered' })).toContainText('instead of line 1');
  });

  await test.step('its total leaves the alternative out', async () => {
    const { id } = await ask<{ id: number }>(page, new URL(page.url()).pathname);
    const view = await ask<{ amount: string; lines: { amount: string; alternative: boolean }[] }>(page, `/orders/${id}`);
    const counted = view.lines.filter((row) => !row.alternative).reduce((sum, row) => sum + Number(row.amount), 0);
    expect(Number(view.amount)).toBeCloseTo(counted, 2);
    expect(view.lines.filter((row) => row.alternative)).toHaveLength(1);
  });

  await test.step('it is sent: it has a number, and commits nothing', async () => {
    await leaveFields(page);
    await page.keyboard.press('Control+Enter');
    await expect(heading(page)).toContainText(/Quote Q\d+/);
    await expect(heading(page)).toContainText('quoted');
  });
  const quote = page.url();

  await test.step('it is mailed; a wrong address is told and what was typed stays', async () => {
    await page.keyboard.press('w');
    await expect(gloss(page).getByLabel('To')).toBeFocused();
    await page.keyboard.press('Control+a');
    await page.keyboard.type('oren at sable');
    await page.keyboard.press('Control+Enter');
    await expect(gloss(page).getByRole('alert')).toContainText('expected an address');
    await expect(gloss(page).getByLabel('To')).toHaveValue('oren at sable');
    await gloss(page).getByLabel('To').focus();
    await page.keyboard.press('Control+a');
    await page.keyboard.type('oren@sable.example');
    await page.keyboard.press('Control+Enter');
    // The post office takes it while the page looks on.
    await expect(gloss(page).getByText('sent: oren@sable.example')).toBeVisible({ timeout: 15_000 });
  });

  await test.step('the paper is a PDF', async () => {
    const { papers } = await ask<{ papers: { id: number }[] }>(page, new URL(quote).pathname);
    const pdf = await page.request.get(`/api/papers/${papers[0]!.id}`);
    expect((await pdf.body()).subarray(0, 5).toString()).toBe('%PDF-');
  });

  await test.step('a manager raises the price of the alternative', async () => {
    const mona = await another(browser, 'mona');
    const { version } = await ask<{ version: number }>(mona, '/price-lists/SHOP');
    const reply = await mona.request.put('/api/price-lists/SHOP', {
      headers: { 'Idempotency-Key': randomUUID() },
      data: { prices: [{ item: 'JAR-340-RD', unit: 'XTY', from: '1', price: '10.4' }], all: false, version },
    });
    expect(await reply.text()).toContain('10.4');
    await mona.context().close();
  });

  await test.step('they take the alternative: what has changed stands beside it, the price stays as quoted', async () => {
    await page.reload();
    await expect(heading(page)).toContainText('quoted');
    await page.keyboard.press('Control+Enter');
    const form = gloss(page);
    await expect(form.getByRole('heading', { name: /They take of/ })).toBeVisible();
    await form.getByRole('checkbox', { name: /JAR-340-RD/ }).focus();
    await page.keyboard.press('Space');
    await expect(form.getByRole('checkbox', { name: /JAR-340-HX/ })).not.toBeChecked();
    await expect(form).toContainText('now 10.4');
    await form.getByLabel('How many of line 2').focus();
    await page.keyboard.press('Control+a');
    await page.keyboard.type('300');
    await expect(form).toContainText('300 taken, 288 are quoted and open');
    await page.keyboard.press('Control+a');
    await page.keyboard.type('288');
    await expect(form).toContainText('The quote is accepted whole.');
    await page.keyboard.press('Control+Enter');
    await expect(heading(page)).toContainText('Draft');
  });

  await test.step('its order is released, and the quote says what became of it', async () => {
    await expect(line(page, 2)).toContainText('JAR-340-RD');
    await expect(line(page, 2)).toContainText('set by hand');
    await leaveFields(page);
    await page.keyboard.press('Control+Enter');
    await expect(heading(page)).toContainText('promised');
    await gloss(page)
      .getByRole('link', { name: /^Q\d+$/ })
      .press('Enter');
    await expect(page).toHaveURL(quote);
    await expect(heading(page)).toContainText('accepted');
    await expect(gloss(page)).toContainText(/Became order \d+, promised/);
  });
});

test('a caller nobody knows is made a prospect and quoted; a double is told', async ({ page }) => {
  await logIn(page);
  await leaveFields(page);
  await page.keyboard.press('n');
  await expect(page.getByLabel('Who is calling?')).toBeFocused();
  await page.keyboard.type('Pellow Island Bees');
  await expect(page.getByText(/No customer has/)).toBeVisible();
  await page.keyboard.press('Control+Enter');
  await expect(page.getByLabel('Name', { exact: true })).toHaveValue('Pellow Island Bees');

  await test.step('what is missing is named', async () => {
    await page.keyboard.press('Control+Enter');
    await expect(page.getByRole('alert').filter({ hasText: 'Street' })).toBeVisible();
  });

  await test.step('somebody has that phone already', async () => {
    await page.getByLabel('Phone').focus();
    await page.keyboard.type('01632 960114');
    await expect(page.getByRole('button', { name: /Wether Hill.*same phone/ })).toBeVisible();
    await page.keyboard.press('Control+a');
    await page.keyboard.type('01632 960988');
    await expect(page.getByText('Known already?')).toBeHidden();
  });

  await page.getByLabel('Street').focus();
  for (const text of ['1 Quay Steps', 'PI1 4QS', 'Pellow']) {
    await page.keyboard.type(text);
    await page.keyboard.press('Tab');
  }
  await page.getByRole('checkbox', { name: /A prospect/ }).focus();
  await page.keyboard.press('Space');
  await page.keyboard.press('Control+Enter');
  await expect(heading(page)).toContainText('Pellow Island Bees');
  await expect(heading(page)).toContainText('Quote');
  await typeLine(page, 'smk-ss-10 2', 'SMK-SS-10');
  await leaveFields(page);
  await page.keyboard.press('Control+Enter');
  await expect(heading(page)).toContainText('quoted');
  await leaveFields(page);
  await page.keyboard.press('x');
  await expect(gloss(page).getByRole('combobox', { name: 'Why' })).toBeFocused();
  await choose(page, 'Why', 'it would');
  await page.keyboard.press('Control+Enter');
  await expect(heading(page)).toContainText('lost');
  await expect(gloss(page)).toContainText('Lost: it would have come too late.');
});

test('what they usually buy and an earlier order become lines, at once', async ({ page }) => {
  await logIn(page);
  await leaveFields(page);
  await page.keyboard.press('n');
  await expect(page.getByLabel('Who is calling?')).toBeFocused();
  await page.keyboard.type('wether hill');
  await expect(gloss(page).getByText('Six empty pallets')).toBeVisible();
  await page.keyboard.press('Enter');
  await expect(quickLine(page)).toBeFocused();
  await page.keyboard.press('Control+i');
  const list = page.getByRole('table', { name: 'Items to pick' });
  await expect(list.getByRole('textbox').first()).toBeFocused();
  await page.keyboard.type('3');
  await page.keyboard.press('ArrowDown');
  await page.keyboard.type('many');
  await page.keyboard.press('Control+Enter');
  await expect(page.getByRole('alert').filter({ hasText: '“many” is no quantity' })).toBeVisible();
  await page.keyboard.press('Control+a');
  await page.keyboard.press('Delete');
  await page.keyboard.press('Enter');
  await page.keyboard.press('Control+Enter');
  await expect(quickLine(page)).toBeFocused();
  await expect(page.getByRole('table', { name: 'Lines of the order' }).locator('tbody tr')).toHaveCount(2);
});
