import type { IsoDay } from '@nockwright/core/calendar';
import type { ItemCode, PurchaseId } from '@nockwright/core/ids';
import type { BodyOf, FieldFault } from '@nockwright/contract/shape';
import type { PurchaseView, supplyRoutes } from '@nockwright/contract/supply';
import { compareDecimal } from '@nockwright/core/money';
import { costFor, supplierArrival } from '@nockwright/core/shortages';
import { anyOf } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { Refusal } from '../http/refusal';
import { checkCosts } from './check-costs';
import { liftDraft } from './gather-purchases';
import { loadOffers } from './load-offers';
import { loadPurchaseLines, lockPurchase, readPurchase, touchPurchase, type PurchaseLineRecord } from './load-purchase';

/**
 * Changes a draft by hand. Its free lines are those that are given; what is bought for an order line keeps its quantity
 * and day, since its promise rests on them, and may have another cost. What the supplier's minimum and lot want beyond it follows.
 */
export async function changeDraft(context: CommandContext, purchaseId: PurchaseId, wish: BodyOf<typeof supplyRoutes.changeDraft>): Promise<PurchaseView> {
  const { trx, now } = context;
  const purchase = await lockPurchase(trx, purchaseId, wish.version);
  if (purchase.state !== 'draft') throw new Refusal('conflict', `Purchase ${purchase.number} is ${purchase.state}: change its lines one by one.`);
  const known = await loadPurchaseLines(trx, purchaseId);
  const offered = await loadOffers(trx, [...new Set(wish.lines.map((line) => line.item))]);
  const offerOf = (item: ItemCode) => offered.get(item)?.find((row) => row.supplier === purchase.supplier);
  const seen = new Set(wish.lines.flatMap((line) => line.id ?? []));
  checkLines(purchase, known, wish.lines, offerOf, now.today);
  await checkCosts(
    context,
    purchase.supplier,
    wish.lines.flatMap(({ id, item, quantity, cost }, at) => {
      const stood = known.find((row) => row.id === id)?.cost ?? costFor(quantity, offerOf(item)!);
      return cost === undefined || compareDecimal(cost, stood) === 0 ? [] : [{ item, cost, field: `body.lines[${at}].cost` }];
    }),
  );
  const struck = known.filter((row) => row.order_line_id === null && !row.lifts && !seen.has(row.id));
  const left = known.filter((row) => !row.lifts && !struck.includes(row));
  if (left.length === 0 && wish.lines.every((line) => line.id !== undefined))
    throw new Refusal('conflict', `Nothing would be left of purchase ${purchase.number}: cancel it instead.`);

  await storeLines(context, purchase, known, wish.lines, struck, offerOf);
  if (wish.note !== undefined) await trx.updateTable('purchase_order').set({ note: wish.note }).where('id', '=', purchaseId).execute();
  await liftDraft(context, purchaseId);
  await touchPurchase(trx, purchaseId);
  const after = await readPurchase(trx, now, purchaseId);
  const linesOf = (lines: readonly { readonly item: ItemCode; readonly quantity: string; readonly cost: string | null }[]) =>
    lines.map(({ item, quantity, cost }) => ({ item, quantity, cost }));
  await recordEvent(context, {
    kind: 'purchase.changed',
    facts: { number: purchase.number },
    before: { note: purchase.note, lines: linesOf(known) },
    after: { note: after.note, lines: linesOf(after.lines) },
    subjects: [
      { kind: 'purchase', key: purchaseId },
      ...[...new Set([...known, ...after.lines].map((row) => row.item))].map((key) => ({ kind: 'item' as const, key })),
    ],
  });
  return after;
}

type DraftLine = BodyOf<typeof supplyRoutes.changeDraft>['lines'][number];
type OfferOf = (item: ItemCode) => (Parameters<typeof supplierArrival>[1] & Parameters<typeof costFor>[1]) | undefined;
type Draft = Awaited<ReturnType<typeof lockPurchase>>;

/** Refuses lines that cannot stand on the draft, each fault with its field. */
function checkLines(purchase: Draft, known: readonly PurchaseLineRecord[], lines: readonly DraftLine[], offerOf: OfferOf, today: IsoDay): void {
  const errors: FieldFault[] = [];
  const seen = new Set<number>();
  lines.forEach((line, at) => {
    const field = (name: string) => `body.lines[${at}].${name}`;
    const old = line.id === undefined ? undefined : known.find((row) => row.id === line.id);
    if (line.id !== undefined && (!old || seen.has(line.id)))
      errors.push({ field: field('id'), message: `this draft has no line ${line.id}, or it stands twice` });
    if (line.id !== undefined) seen.add(line.id);
    if (old?.lifts) errors.push({ field: field('id'), message: `line ${old.line_no} follows the supplier’s minimum and lot; add a line of your own` });
    if (old && line.item !== old.item) errors.push({ field: field('item'), message: `line ${old.line_no} is ${old.item}; remove it and add another` });
    if (old && old.order_line_id !== null && compareDecimal(line.quantity, old.quantity) !== 0)
      errors.push({ field: field('quantity'), message: `line ${old.line_no} is bought for an order; change the order’s route` });
    if (old && old.order_line_id !== null && line.expectedDay !== undefined && line.expectedDay !== old.expected_day)
      errors.push({ field: field('expectedDay'), message: `line ${old.line_no} is promised from: give it another day by itself, with whom it moves` });
    if (!old && !offerOf(line.item)) errors.push({ field: field('item'), message: `${purchase.supplier} does not sell ${line.item}` });
    if (!old && purchase.kind === 'drop_ship')
      errors.push({ field: field('item'), message: 'it goes to a customer: what they are sent is added to their order' });
    if (line.expectedDay !== undefined && line.expectedDay < today && line.expectedDay !== old?.expected_day)
      errors.push({ field: field('expectedDay'), message: `${line.expectedDay} has passed` });
  });
  if (errors.length > 0) throw new Refusal('invalid', errors.map(({ field, message }) => `${field}: ${message}`).join('; '), errors);
}

/** Strikes, changes and adds lines. */
async function storeLines(
  { trx, now }: CommandContext,
  purchase: Draft,
  known: readonly PurchaseLineRecord[],
  lines: readonly DraftLine[],
  struck: readonly PurchaseLineRecord[],
  offerOf: OfferOf,
): Promise<void> {
  if (struck.length > 0)
    await trx
      .deleteFrom('purchase_line')
      .where(
        anyOf(
          'id',
          struck.map((row) => row.id),
        ),
      )
      .execute();
  let last = known.reduce((most, row) => Math.max(most, row.line_no), 0);
  for (const line of lines) {
    const old = known.find((row) => row.id === line.id);
    if (old)
      await trx
        .updateTable('purchase_line')
        .set({
          quantity: line.quantity,
          // What a buyer wants more or less of is theirs: it stays, whatever it was bought beside.
          ...(compareDecimal(line.quantity, old.quantity) === 0 ? {} : { beside_id: null }),
          ...(line.cost === undefined ? {} : { cost: line.cost }),
          ...(line.expectedDay === undefined ? {} : { expected_day: line.expectedDay }),
        })
        .where('id', '=', old.id)
        .execute();
    else {
      const offer = offerOf(line.item)!;
      await trx
        .insertInto('purchase_line')
        .values({
          purchase_id: purchase.id,
          line_no: ++last,
          item: line.item,
          warehouse: purchase.warehouse,
          quantity: line.quantity,
          cost: line.cost ?? costFor(line.quantity, offer),
          expected_day: line.expectedDay ?? supplierArrival(now.localTime, offer),
          order_line_id: null,
          firm: false,
        })
        .execute();
    }
  }
}
