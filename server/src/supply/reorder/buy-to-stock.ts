import type { PurchaseId, SupplierCode } from '@nockwright/core/ids';
import { takeLocks } from '../../locks';
import type { ItemOffer } from '@nockwright/core/routing';
import type { BodyOf } from '@nockwright/contract/shape';
import type { supplyRoutes } from '@nockwright/contract/supply';
import { plus } from '@nockwright/core/money';
import { costFor, supplierArrival } from '@nockwright/core/shortages';
import { recordEvent } from '../../events';
import type { CommandContext } from '../../http/context';
import { Refusal } from '../../http/refusal';

import { nextNumber } from '../../numbers';
import { liftDraft, stillDraft } from '../gather-purchases';
import { loadDrafts, loadOffers } from '../load-offers';
import { touchPurchase } from '../load-purchase';

type Line = BodyOf<typeof supplyRoutes.buyToStock>['lines'][number];

interface Bought {
  readonly id: number;
  readonly number: string;
  readonly supplier: SupplierCode;
  readonly lines: number;
}

/**
 * Puts goods for the shelf on the open draft of their supplier for the warehouse, or on a new one: minimum and lot are met
 * once, whoever else the draft buys for. They are drafts, to be looked at and sent.
 */
export async function buyToStock(context: CommandContext, lines: readonly Line[]): Promise<Bought[]> {
  const { trx } = context;
  const offers = await loadOffers(trx, [...new Set(lines.map((line) => line.item))]);
  const warehouses = await trx.selectFrom('warehouse').select(['code', 'name', 'address']).execute();
  const errors = lines.flatMap((line, at) => [
    ...(offerOf(offers, line) ? [] : [{ field: `body.lines[${at}].supplier`, message: `${line.supplier} does not sell ${line.item}` }]),
    ...(warehouses.some((row) => row.code === line.warehouse)
      ? []
      : [{ field: `body.lines[${at}].warehouse`, message: `there is no warehouse ${line.warehouse}` }]),
  ]);
  if (errors.length > 0) throw new Refusal('invalid', errors.map(({ field, message }) => `${field}: ${message}`).join('; '), errors);
  const groups = new Map<string, Line[]>();
  for (const line of lines) groups.set(`${line.supplier}/${line.warehouse}`, [...(groups.get(`${line.supplier}/${line.warehouse}`) ?? []), line]);
  const drafts = await loadDrafts(trx, [...new Set(lines.map((line) => line.supplier))]);
  // All of them before the first number is taken: the number series comes last in the one lock order.
  await takeLocks(trx, { purchases: [...groups.keys()].flatMap((key) => drafts.get(key)?.id ?? []) });
  const bought: Bought[] = [];
  for (const [key, group] of [...groups].sort(([a], [b]) => (a < b ? -1 : 1))) {
    const [first] = group as [Line, ...Line[]];
    const warehouse = warehouses.find((row) => row.code === first.warehouse)!;
    const draft = (await stillDraft(context, drafts.get(key))) ?? (await newDraft(context, first.supplier, warehouse));
    for (const line of group) await addTo(context, draft.id, line, offerOf(offers, line)!);
    await liftDraft(context, draft.id);
    await touchPurchase(trx, draft.id);
    await recordEvent(context, {
      kind: 'purchase.stocked',
      facts: { number: draft.number, goods: group.map(({ quantity, item }) => ({ quantity, item })) },
      subjects: [{ kind: 'purchase', key: draft.id }, ...group.map((line) => ({ kind: 'item' as const, key: line.item }))],
    });
    bought.push({ id: draft.id, number: draft.number, supplier: offerOf(offers, first)!.name, lines: group.length });
  }
  return bought;
}

/** More of an item that the draft buys for the shelf already, or a line of its own. */
async function addTo({ trx, now }: CommandContext, purchaseId: PurchaseId, line: Line, offer: ItemOffer): Promise<void> {
  const known = await trx
    .selectFrom('purchase_line')
    .selectAll()
    .where('purchase_id', '=', purchaseId)
    .where('item', '=', line.item)
    .where('order_line_id', 'is', null)
    .where('lifts', '=', false)
    .orderBy('id')
    .executeTakeFirst();
  if (known) {
    await trx
      .updateTable('purchase_line')
      .set({ quantity: plus(known.quantity, line.quantity) })
      .where('id', '=', known.id)
      .execute();
    return;
  }
  const { last } = await trx
    .selectFrom('purchase_line')
    .select(({ fn }) => fn.max<number | null>('line_no').as('last'))
    .where('purchase_id', '=', purchaseId)
    .executeTakeFirstOrThrow();
  await trx
    .insertInto('purchase_line')
    .values({
      purchase_id: purchaseId,
      line_no: (last ?? 0) + 1,
      item: line.item,
      warehouse: line.warehouse,
      quantity: line.quantity,
      cost: costFor(line.quantity, offer),
      expected_day: supplierArrival(now.localTime, offer),
      order_line_id: null,
      firm: false,
    })
    .execute();
}

async function newDraft(
  context: CommandContext,
  supplier: SupplierCode,
  warehouse: { readonly code: string; readonly name: string; readonly address: string },
): Promise<{ id: number; number: string }> {
  const { trx, now } = context;
  const number = await nextNumber(trx, 'purchase');
  const { id } = await trx
    .insertInto('purchase_order')
    .values({
      number,
      supplier,
      kind: 'stock',
      state: 'draft',
      warehouse: warehouse.code,
      order_id: null,
      ship_to: `${warehouse.name}, ${warehouse.address}`,
      created_day: now.today,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  return { id, number };
}

function offerOf(offers: ReadonlyMap<string, readonly ItemOffer[]>, line: Line): ItemOffer | undefined {
  return offers.get(line.item)?.find((row) => row.supplier === line.supplier);
}
