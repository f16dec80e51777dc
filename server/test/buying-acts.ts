import { supplyRoutes, type PurchaseView } from '@nockwright/contract/supply';
import { writeDespatchAdvice, writeOrderResponse } from '@nockwright/core/exchange';
import type { Dice } from '../../demo/dice';
import type { DeskClient } from './desk-client';
import type { Attempt } from './routing-acts';

/** What is bought for the shelf, changed on drafts, and what suppliers answer by file, at random, on whatever there is by now. */
export function buyingActs(
  desk: DeskClient,
  attempt: Attempt,
  anyPurchase: (dice: Dice) => Promise<PurchaseView | null>,
  items: readonly string[],
  file: (supplier: string, content: string) => Promise<unknown>,
) {
  let messages = 0;

  return {
    restock: (dice: Dice) => {
      const line = { item: dice.pick(items), warehouse: dice.pick(['MAR', 'QUI'] as const), supplier: 'SUP', quantity: String(dice.whole(3, 30)) };
      return attempt(supplyRoutes.buyToStock, { body: { lines: [line, { ...line, item: dice.pick(items) }] } });
    },
    draft: async (dice: Dice) => {
      const purchase = await anyPurchase(dice);
      if (purchase?.state !== 'draft') return null;
      const kept = purchase.lines.filter((line) => !line.lifts && (line.bound || dice.chance(70)));
      const lines = kept.map((line) => ({
        id: line.id,
        item: line.item,
        quantity: line.bound ? line.quantity : String(dice.whole(1, 30)),
        ...(dice.chance(30) ? { cost: `0.${dice.whole(10, 60)}` } : {}),
      }));
      const added = dice.chance(40) ? [{ item: dice.pick(items), quantity: String(dice.whole(1, 20)) }] : [];
      return attempt(supplyRoutes.changeDraft, { params: { purchase: purchase.id }, body: { version: purchase.version, lines: [...lines, ...added] } });
    },
    /** Somebody decides on an answer that waits. */
    decide: async (dice: Dice) => {
      const { rows } = await desk.call('mona', supplyRoutes.listMessages, { query: { which: 'look' } });
      const held = rows.filter((row) => row.state === 'held');
      if (held.length === 0) return null;
      return attempt(supplyRoutes.decideAnswer, { params: { message: dice.pick(held).id }, body: { take: dice.chance(60) } });
    },
    answer: async (dice: Dice) => {
      const purchase = await anyPurchase(dice);
      if (!purchase || purchase.state === 'draft') return null;
      if (purchase.state === 'sent' && dice.chance(20))
        return attempt(supplyRoutes.acknowledge, { params: { purchase: purchase.id }, body: { version: purchase.version } });
      const head = { number: `M${++messages}`, issueDay: '2027-03-09', order: purchase.number };
      const parties = [{ name: 'Supplier' }, { name: 'Us' }, () => 'EA'] as const;
      const some = purchase.lines.filter(() => dice.chance(70));
      if (dice.chance(30)) {
        const lines = some.map((line) => ({ orderLine: String(line.lineNo), quantity: String(dice.whole(1, 20)), lot: 'X', expires: null }));
        return file(purchase.supplier.code, writeDespatchAdvice({ ...head, tracking: 'T', lines }, ...parties));
      }
      const lines = some.map((line) => ({
        id: String(line.lineNo),
        answer: dice.pick(['accepted', 'changed', 'changed', 'refused'] as const),
        quantity: dice.chance(40) ? String(dice.whole(0, 40)) : null,
        day: dice.chance(50) ? dice.pick(['2027-03-12', '2027-03-25', '2027-04-02', '2027-02-01']) : null,
        price: dice.chance(20) ? '0.4' : null,
        note: '',
        instead: null,
      }));
      return file(purchase.supplier.code, writeOrderResponse({ ...head, note: '', lines }, ...parties, 'EUR'));
    },
  };
}
