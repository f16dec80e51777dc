import { expect, test, type Page } from '@playwright/test';
import { logIn } from './desk';
import { SCREENS } from './screens';

const WIDTHS = [390, 1024, 1280, 1920];

/**
 * What cannot be read on a page: texts that lie on each other, and words that follow each other without a gap. Only what is
 * seen counts: what is clipped, or lies under what stays while the rest scrolls, is not.
 */
const unreadable = (page: Page) =>
  page.evaluate(() => {
    interface Seen {
      readonly text: string;
      readonly of: Element;
      readonly box: DOMRect;
    }
    const clipped = (box: DOMRect, of: Element): DOMRect => {
      let [left, top, right, bottom] = [box.left, box.top, box.right, box.bottom];
      for (let up: Element | null = of; up && up !== document.body; up = up.parentElement) {
        if (getComputedStyle(up).overflow === 'visible') continue;
        const edge = up.getBoundingClientRect();
        [left, top, right, bottom] = [Math.max(left, edge.left), Math.max(top, edge.top), Math.min(right, edge.right), Math.min(bottom, edge.bottom)];
      }
      return new DOMRect(left, top, Math.max(0, right - left), Math.max(0, bottom - top));
    };
    const onTop = ({ box, of }: Omit<Seen, 'text'>) => {
      const found = document.elementFromPoint(box.left + box.width / 2, box.top + box.height / 2);
      return found !== null && (found.contains(of) || of.contains(found));
    };
    const seen: Seen[] = [];
    const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
    for (let node = walker.nextNode(); node; node = walker.nextNode()) {
      const [of, text] = [node.parentElement!, node.textContent!];
      if (
        text.trim() === '' ||
        of.closest('.visually-hidden, .cdk-visually-hidden, script, style') ||
        !of.checkVisibility({ opacityProperty: true, visibilityProperty: true })
      )
        continue;
      const range = document.createRange();
      range.selectNodeContents(node);
      for (const whole of Array.from(range.getClientRects())) {
        const box = clipped(whole, of);
        if (box.width > 2 && box.height > 4 && box.top < innerHeight && onTop({ box, of })) seen.push({ text, of, box });
      }
    }
    const faults: string[] = [];
    const short = (text: string) => text.trim().slice(0, 30);
    for (const [at, a] of seen.entries())
      for (const b of seen.slice(at + 1)) {
        if (a.of === b.of || a.of.contains(b.of) || b.of.contains(a.of)) continue;
        const across = Math.min(a.box.right, b.box.right) - Math.max(a.box.left, b.box.left);
        const down = Math.min(a.box.bottom, b.box.bottom) - Math.max(a.box.top, b.box.top);
        if (across > 2 && down > 5) faults.push(`“${short(a.text)}” lies on “${short(b.text)}”`);
        // On one line, and nothing between them.
        if (down > 8 && Math.abs(a.box.right - b.box.left) < 1.5 && /[\p{L}\p{N}]$/u.test(a.text) && /^[\p{L}\p{N}]/u.test(b.text))
          faults.push(`“${short(a.text)}” runs into “${short(b.text)}”`);
      }
    for (const table of Array.from(document.querySelectorAll('table')))
      if (table.getBoundingClientRect().right > table.parentElement!.getBoundingClientRect().right + 1)
        faults.push(
          `the table ${table.getAttribute('aria-label')} is ${Math.round(table.getBoundingClientRect().right - table.parentElement!.getBoundingClientRect().right)} too wide`,
        );
    if (document.documentElement.scrollWidth > innerWidth + 1) faults.push(`the page is ${document.documentElement.scrollWidth} wide`);
    return [...new Set(faults)].slice(0, 6);
  });

const PARTS = 4;
for (let part = 0; part < PARTS; part++)
  test(`on every screen, at every width, texts stand apart and nothing is wider than the page, ${part + 1} of ${PARTS}`, async ({ page }) => {
    await logIn(page, 'mona');
    const order = ((await (await page.request.get('/api/orders?search=WH-8841')).json()) as { rows: { id: number }[] }).rows[0]!.id;
    const faults: string[] = [];
    for (const screen of [...SCREENS, `/orders/${order}`].filter((_, at) => at % PARTS === part)) {
      await page.goto(screen);
      await expect(page.getByRole('heading').first()).toBeVisible();
      await page.waitForLoadState('networkidle').catch(() => undefined);
      for (const width of WIDTHS) {
        await page.setViewportSize({ width, height: width === 390 ? 844 : 800 });
        // The ruler follows the width of its sheet in the next frames.
        await page.evaluate(() => new Promise((done) => requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(done, 60)))));
        faults.push(...(await unreadable(page)).map((fault) => `${screen} at ${width}: ${fault}`));
      }
    }
    expect(faults).toEqual([]);
  });
