import type { ItemCode, PurchaseId, SupplierCode, WarehouseCode } from '@nockwright/core/ids';
import type { BodyOf } from '@nockwright/contract/shape';
import type { PurchaseView, supplyRoutes } from '@nockwright/contract/supply';
import { costFor, purchaseQuantity, supplierArrival } from '@nockwright/core/shortages';
import { compareDecimal } from '@nockwright/core/money';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { Refusal } from '../http/refusal';
import { nextNumber } from '../numbers';
import { checkCosts } from './check-costs';
import { loadOffers } from './load-offers';
import { readPurchase } from './load-purchase';

/** Starts a purchase order to stock. It is a draft: nothing can be promised from it until it is sent. */
export async function createPurchase(context: CommandContext, wish: BodyOf<typeof supplyRoutes.createPurchase>): Promise<PurchaseView> {
  const { trx, now } = context;
  const errors: { field: string; message: string }[] = [];
  const supplier = await trx.selectFrom('supplier').selectAll().where('code', '=', wish.supplier).executeTakeFirst();
  if (!supplier) errors.push({ field: 'body.supplier', message: `there is no supplier ${wish.supplier}` });
  const warehouse = await trx.selectFrom('warehouse').selectAll().where('code', '=', wish.warehouse).executeTakeFirst();
  if (!warehouse) errors.push({ field: 'body.warehouse', message: `there is no warehouse ${wish.warehouse}` });
  const offered = await loadOffers(trx, [...new Set(wish.lines.map((line) => line.item))]);
  const offers = [...offered.values()].flat().filter((row) => row.supplier === wish.supplier);
  wish.lines.forEach((line, at) => {
    const offer = offers.find((row) => row.item === line.item);
    if (supplier && !offer) errors.push({ field: `body.lines[${at}].item`, message: `${wish.supplier} does not sell ${line.item}` });
    if (offer && compareDecimal(purchaseQuantity(line.quantity, offer), line.quantity) !== 0) {
      errors.push({
        field: `body.lines[${at}].quantity`,
        message: `${supplier!.name} sells at least ${offer.minimum} in lots of ${offer.multiple}, got ${line.quantity}`,
      });
    }
    if (line.expectedDay !== undefined && line.expectedDay < now.today)
      errors.push({ field: `body.lines[${at}].expectedDay`, message: `${line.expectedDay} has passed` });
  });
  if (errors.length > 0 || !supplier || !warehouse) throw new Refusal('invalid', errors.map(({ field, message }) => `${field}: ${message}`).join('; '), errors);

  await checkCosts(
    context,
    supplier.code,
    wish.lines.flatMap(({ item, cost }, at) => (cost === undefined ? [] : [{ item, cost, field: `body.lines[${at}].cost` }])),
  );
  const { id, number } = await storePurchase(context, supplier, warehouse, wish, (item) => offers.find((row) => row.item === item)!);
  await recordEvent(context, {
    kind: 'purchase.started',
    facts: { number, supplier: supplier.name },
    after: wish,
    subjects: [{ kind: 'purchase', key: id }, ...wish.lines.map((line) => ({ kind: 'item' as const, key: line.item }))],
  });
  return readPurchase(trx, now, id);
}

async function storePurchase(
  { trx, now }: CommandContext,
  supplier: { readonly code: SupplierCode },
  warehouse: { readonly code: WarehouseCode; readonly name: string; readonly address: string },
  wish: BodyOf<typeof supplyRoutes.createPurchase>,
  offerOf: (item: ItemCode) => Parameters<typeof supplierArrival>[1] & Parameters<typeof costFor>[1],
): Promise<{ readonly id: PurchaseId; readonly number: string }> {
  const number = await nextNumber(trx, 'purchase');
  const { id } = await trx
    .insertInto('purchase_order')
    .values({
      number,
      supplier: supplier.code,
      kind: 'stock',
      state: 'draft',
      warehouse: warehouse.code,
      order_id: null,
      ship_to: `${warehouse.name}, ${warehouse.address}`,
      created_day: now.today,
      note: wish.note ?? '',
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await trx
    .insertInto('purchase_line')
    .values(
      wish.lines.map((line, at) => {
        const offer = offerOf(line.item);
        return {
          purchase_id: id,
          line_no: at + 1,
          item: line.item,
          warehouse: warehouse.code,
          quantity: line.quantity,
          cost: line.cost ?? costFor(line.quantity, offer),
          expected_day: line.expectedDay ?? supplierArrival(now.localTime, offer),
          order_line_id: null,
          firm: false,
        };
      }),
    )
    .execute();
  return { id, number };
}
