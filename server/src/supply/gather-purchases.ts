import type { ItemCode, PurchaseId, SupplierCode, WarehouseCode } from '@nockwright/core/ids';
import type { ItemOffer } from '@nockwright/core/routing';
import { compareDecimal, minus, plus, sum } from '@nockwright/core/money';
import { costFor, purchaseQuantity, supplierArrival, supplierShipDay } from '@nockwright/core/shortages';
import { anyOf } from '../database';
import type { CommandContext } from '../http/context';
import { invalid } from '../http/refusal';
import { nextNumber } from '../numbers';
import { loadDraftDropShipments, loadDrafts, loadOffers } from './load-offers';
import { touchPurchase } from './load-purchase';

/** A quantity of an order line to be bought for it alone. */
export interface Buy {
  readonly route: number;
  readonly order: number;
  readonly line: { readonly id: number; readonly item: ItemCode; readonly warehouse: WarehouseCode };
  /** Where it goes, on one line: a drop shipment for each order and address. */
  readonly shipTo: string;
  readonly kind: 'special_order' | 'drop_ship';
  readonly supplier: SupplierCode;
  readonly quantity: string;
  /** For stock besides. */
  readonly more: string | null;
}

export interface Bought {
  readonly purchaseId: PurchaseId;
  readonly number: string;
}

/**
 * Buys what routes need: to stock on the open draft of the supplier for the warehouse, or a new one, so that minimum and
 * lot are met once; to customers on the draft, or a new one, for each order and address, so that its fee is paid once. Every line is bound to its order line.
 * They are drafts, to be looked at and sent; being bound, they count as supply for their line from now on.
 */
export async function gatherPurchases(context: CommandContext, buys: readonly Buy[]): Promise<Bought[]> {
  if (buys.length === 0) return [];
  const { trx, now } = context;
  const offers = await loadOffers(trx, [...new Set(buys.map((buy) => buy.line.item))]);
  const drafts = await loadDrafts(trx, [...new Set(buys.map((buy) => buy.supplier))]);
  const drops = new Map(
    (
      await loadDraftDropShipments(
        trx,
        buys.filter((buy) => buy.kind === 'drop_ship').map((buy) => buy.order),
      )
    ).map((draft) => [`${draft.supplier}/${draft.order}/${draft.shipTo}`, draft]),
  );
  const places = new Map<string, { readonly id: number; readonly number: string; readonly isNew: boolean; readonly buys: Buy[] }>();
  for (const buy of [...buys].sort((a, b) => a.route - b.route)) {
    const key = buy.kind === 'drop_ship' ? `${buy.supplier}/${buy.order}/${buy.shipTo}` : `${buy.supplier}/${buy.line.warehouse}`;
    let place = places.get(key);
    if (!place) {
      const draft = await stillDraft(context, buy.kind === 'drop_ship' ? drops.get(key) : drafts.get(key));
      const made = draft ?? (await createPurchase(context, buy));
      places.set(key, (place = { id: made.id, number: made.number, isNew: draft === undefined, buys: [] }));
    }
    place.buys.push(buy);
  }
  for (const place of places.values()) {
    const last = place.isNew ? 0 : await lastLineNo(context, place.id);
    const lines = await trx
      .insertInto('purchase_line')
      .values(
        place.buys.map((buy, at) => {
          const offer = offerOf(offers, buy);
          const expected = buy.kind === 'drop_ship' ? supplierShipDay(now.localTime, offer) : supplierArrival(now.localTime, offer);
          return {
            purchase_id: place.id,
            line_no: last + 1 + at,
            item: buy.line.item,
            warehouse: buy.kind === 'drop_ship' ? null : buy.line.warehouse,
            quantity: buy.quantity,
            cost: costFor(buy.quantity, offer),
            expected_day: expected,
            told_day: buy.kind === 'drop_ship' ? expected : null,
            order_line_id: buy.line.id,
            firm: true,
          };
        }),
      )
      .returning(['id', 'order_line_id'])
      .execute();
    for (const [at, line] of lines.entries())
      await trx.updateTable('line_route').set({ purchase_line_id: line.id }).where('id', '=', place.buys[at]!.route).execute();
    const beside = place.buys.map((buy, at) => ({ buy, line: lines[at]!.id })).filter(({ buy }) => buy.kind === 'special_order' && buy.more !== null);
    await addForStock(context, place.id, last + place.buys.length, beside, offers);
    await liftDraft(context, place.id);
    if (!place.isNew) await touchPurchase(trx, place.id);
  }
  return [...places.values()].map(({ id, number }) => ({ purchaseId: id, number }));
}

/** What is bought beside these lines, for nobody in particular: a free line of its own, that the buyer can change. */
async function addForStock(
  { trx, now }: CommandContext,
  purchaseId: PurchaseId,
  last: number,
  rows: readonly { readonly buy: Buy; readonly line: number }[],
  offers: ReadonlyMap<string, readonly ItemOffer[]>,
): Promise<void> {
  if (rows.length === 0) return;
  await trx
    .insertInto('purchase_line')
    .values(
      rows.map(({ buy, line }, at) => {
        const offer = offerOf(offers, buy);
        return {
          purchase_id: purchaseId,
          line_no: last + 1 + at,
          item: buy.line.item,
          warehouse: buy.line.warehouse,
          quantity: buy.more!,
          cost: costFor(buy.more!, offer),
          expected_day: supplierArrival(now.localTime, offer),
          order_line_id: null,
          firm: false,
          beside_id: line,
        };
      }),
    )
    .execute();
}

/**
 * The draft, locked; none where somebody has sent it meanwhile, or has it in hand: what was not locked before the pools is
 * not waited for behind them, since whoever has it may wait for a pool.
 */
export async function stillDraft<D extends { readonly id: number }>({ trx }: Pick<CommandContext, 'trx'>, draft: D | undefined): Promise<D | undefined> {
  if (!draft) return undefined;
  const row = await trx.selectFrom('purchase_order').select('state').where('id', '=', draft.id).forNoKeyUpdate().skipLocked().executeTakeFirst();
  return row?.state === 'draft' ? draft : undefined;
}

/**
 * Brings a draft in line with what the supplier wants: for each item one line lifts what is needed to minimum and lot, for
 * nobody in particular; and every line of it costs what so many cost. To be called whenever lines of a draft change.
 */
export async function liftDraft(context: CommandContext, purchaseId: PurchaseId): Promise<void> {
  const { trx, now } = context;
  const purchase = await trx.selectFrom('purchase_order').selectAll().where('id', '=', purchaseId).executeTakeFirstOrThrow();
  if (purchase.state !== 'draft') return;
  const lines = await trx.selectFrom('purchase_line').selectAll().where('purchase_id', '=', purchaseId).orderBy('line_no').execute();
  const offers = await loadOffers(trx, [...new Set(lines.map((line) => line.item))]);
  let last = lines.reduce((most, line) => Math.max(most, line.line_no), 0);
  for (const item of new Set(lines.map((line) => line.item))) {
    const offer = offers.get(item)?.find((row) => row.supplier === purchase.supplier);
    if (!offer) continue;
    const own = lines.filter((line) => line.item === item);
    const lift = own.find((line) => line.lifts);
    const needed = sum(own.filter((line) => !line.lifts).map((line) => minus(line.quantity, line.closed)));
    const wanted = purchase.kind === 'stock' && compareDecimal(needed, '0') > 0 ? purchaseQuantity(needed, offer) : needed;
    const more = minus(wanted, needed);
    if (lift && compareDecimal(more, '0') <= 0) await trx.deleteFrom('purchase_line').where('id', '=', lift.id).execute();
    else if (lift) await trx.updateTable('purchase_line').set({ quantity: more, closed: '0' }).where('id', '=', lift.id).execute();
    else if (compareDecimal(more, '0') > 0)
      await trx
        .insertInto('purchase_line')
        .values({
          purchase_id: purchaseId,
          line_no: ++last,
          item,
          warehouse: purchase.warehouse,
          quantity: more,
          cost: costFor(wanted, offer),
          expected_day: supplierArrival(now.localTime, offer),
          order_line_id: null,
          firm: false,
          lifts: true,
        })
        .execute();
    // A cost given by hand stands: only what stands at one of the supplier's costs follows the quantity.
    const known = [offer.cost, ...(offer.breaks ?? []).map((step) => step.cost)];
    const cost = costFor(wanted, offer);
    const follow = own.filter((line) => line.cost !== cost && known.some((one) => compareDecimal(one, line.cost) === 0)).map((line) => line.id);
    if (follow.length > 0) await trx.updateTable('purchase_line').set({ cost }).where(anyOf('id', follow)).execute();
  }
}

async function lastLineNo({ trx }: CommandContext, purchaseId: PurchaseId): Promise<number> {
  const rows = await trx.selectFrom('purchase_line').select('line_no').where('purchase_id', '=', purchaseId).execute();
  return rows.reduce((most, row) => Math.max(most, row.line_no), 0);
}

async function createPurchase({ trx, now }: CommandContext, { kind, supplier, order, line, shipTo }: Buy): Promise<{ id: number; number: string }> {
  const warehouse = kind === 'drop_ship' ? null : line.warehouse;
  const address =
    warehouse === null ? null : await trx.selectFrom('warehouse').select(['name', 'address']).where('code', '=', warehouse).executeTakeFirstOrThrow();
  const number = await nextNumber(trx, 'purchase');
  const { id } = await trx
    .insertInto('purchase_order')
    .values({
      number,
      supplier,
      kind: warehouse === null ? 'drop_ship' : 'stock',
      state: 'draft',
      warehouse,
      order_id: warehouse === null ? order : null,
      ship_to: address ? `${address.name}, ${address.address}` : shipTo,
      created_day: now.today,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  return { id, number };
}

function offerOf(offers: ReadonlyMap<string, readonly ItemOffer[]>, buy: Buy): ItemOffer {
  const offer = offers.get(buy.line.item)?.find((row) => row.supplier === buy.supplier);
  if (!offer) throw invalid('body.supplier', `${buy.supplier} does not sell ${buy.line.item}`);
  if (buy.kind !== 'drop_ship') return offer;
  if (!offer.dropShips) throw invalid('body.supplier', `${offer.name} does not ship to customers`);
  if (compareDecimal(purchaseQuantity(buy.quantity, offer), buy.quantity) !== 0)
    throw invalid('body.quantity', `${offer.name} ships at least ${offer.minimum}, in lots of ${offer.multiple}; got ${plus(buy.quantity, '0')}`);
  return offer;
}
