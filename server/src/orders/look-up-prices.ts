import { isPricedAt, soldUnits, type SoldItem } from '@nockwright/core/orders';
import { afterLines, priceParts, type LineBefore, type PricedPart } from '@nockwright/core/pricing';
import type { Db } from '../database';
import { loadSoldItems } from './draft-line';
import type { OrderLineRecord } from './load-order';

type PricedOrder = Parameters<typeof loadSoldItems>[2];

/**
 * What each line of a draft would be priced at if it were ordered today: one part, or several where its contract covers
 * only a part of it. What was agreed stays until this is accepted.
 */
export async function lookUpPrices(
  db: Db,
  order: PricedOrder,
  lines: readonly OrderLineRecord[],
  today: string,
  /** All lines of the order, where `lines` are some of them. */
  all: readonly OrderLineRecord[] = lines,
): Promise<ReadonlyMap<number, readonly PricedPart[]>> {
  // Contracts may hold for some addresses only: lines are looked up for where they go.
  const placeOf = (line: OrderLineRecord) => line.ship_to_id ?? order.ship_to_id;
  const sold = new Map<string, SoldItem>();
  for (const place of new Set(lines.map(placeOf))) {
    const codes = [...new Set(lines.filter((line) => placeOf(line) === place).map((line) => line.item))];
    for (const item of await loadSoldItems(db, codes, { ...order, ship_to_id: place }, today)) sold.set(`${item.code}/${place}`, item);
  }
  return new Map(
    lines.map((line) => {
      const before = all.filter((row) => row.line_no < line.line_no).map(asLineBefore);
      const item = sold.get(`${line.item}/${placeOf(line)}`)!;
      const { listPrice, cost, listBreaks, customerList, contracts } = item;
      const parts = priceParts({
        unit: line.unit,
        quantity: line.quantity,
        ratio: { numerator: line.numerator, denominator: line.denominator },
        day: today,
        listPrice,
        cost,
        listBreaks,
        customerList,
        contracts: afterLines(contracts, before),
        pin: line.price_pin,
        units: soldUnits(item),
      });
      return [line.id, parts];
    }),
  );
}

function asLineBefore(line: OrderLineRecord): LineBefore {
  return { contractLine: line.alternative ? null : line.contract_line_id, contract: line.contract_id, stockQuantity: line.stock_quantity };
}

/** Whether a line stands at the price that is looked up for it. */
export function isAgreed(line: Pick<OrderLineRecord, 'price' | 'contract_line_id'>, parts: readonly PricedPart[]): boolean {
  return isPricedAt({ price: line.price, contractLine: line.contract_line_id }, parts);
}
