import type { LineId, OrderId } from '@nockwright/core/ids';
import type { OrderView } from '@nockwright/contract/orders';
import { compareDecimal } from '@nockwright/core/money';
import type { PricedPart, PricePin } from '@nockwright/core/pricing';
import { sql } from 'kysely';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { storedPart } from './draft-line';
import { loadOrderLines, type OrderLineRecord } from './load-order';
import { lockDraft, touchOrder } from './lock-order';
import { lookUpPrices } from './look-up-prices';
import { readOrder } from './read-order';

export interface PriceWish {
  readonly version: number;
  /** What is settled by hand; null: looked up anew; absent: as it was. */
  readonly pin?: PricePin | null;
  /** The parts and prices that were seen, where they are accepted as they are looked up now. */
  readonly accept?: readonly { readonly quantity: string; readonly price: string }[];
}

/** Settles the price of a line of a draft. Where a contract covers only a part of it, the rest becomes a line of its own behind it. */
export async function setPrice(context: CommandContext, orderId: OrderId, lineId: LineId, wish: PriceWish): Promise<OrderView> {
  const { trx, now } = context;
  const order = await lockDraft(trx, orderId, wish.version);
  const lines = await loadOrderLines(trx, orderId);
  const line = lines.find((row) => row.id === lineId);
  if (!line) throw notFound(`line ${lineId} on this order`);
  const pin = wish.pin === undefined ? line.price_pin : wish.pin;
  const parts = (await lookUpPrices(trx, order, [{ ...line, price_pin: pin }], now.today, lines)).get(lineId)!;
  if (wish.accept) checkSeen(line, wish.accept, parts);
  const holds = pin?.kind !== 'contract' || parts[0]!.price.contractLine === pin.line;
  if (wish.pin?.kind === 'contract' && !holds) throw invalid('body.pin.line', whyNotChosen(parts, wish.pin.line));

  // What was chosen before and no longer holds is forgotten with the price it gave.
  await storeParts(context, line, parts, holds ? pin : null);
  await touchOrder(context, orderId);
  await recordEvent(context, {
    kind: 'line.priced',
    facts: {
      lineNo: line.line_no,
      item: line.item,
      parts: parts.map(({ quantity, price }) => ({ quantity, price: price.price, source: price.source })),
      was: { price: line.price, source: line.price_source },
    },
    ...(pin?.kind === 'manual' ? { why: pin.reason } : {}),
    before: { price: line.price, source: line.price_source },
    after: parts.map(({ quantity, price }) => ({ quantity, price: price.price, source: price.source })),
    subjects: [
      { kind: 'order', key: orderId },
      { kind: 'item', key: line.item },
    ],
  });
  return readOrder(trx, now, orderId);
}

function checkSeen(line: OrderLineRecord, seen: NonNullable<PriceWish['accept']>, parts: readonly PricedPart[]) {
  const same = (at: number) => compareDecimal(seen[at]!.price, parts[at]!.price.price) === 0 && compareDecimal(seen[at]!.quantity, parts[at]!.quantity) === 0;
  if (seen.length === parts.length && parts.every((_, at) => same(at))) return;
  const words = (rows: readonly { readonly quantity: string; readonly price: string }[]) => rows.map((row) => `${row.quantity} at ${row.price}`).join(', ');
  const current = words(parts.map(({ quantity, price }) => ({ quantity, price: price.price })));
  throw new Refusal('changed', `The price of line ${line.line_no} has changed again: you saw ${words(seen)}; it is now ${current}. Look again, then decide.`, [
    { field: 'body.accept', message: `it is now ${current}` },
  ]);
}

function whyNotChosen(parts: readonly PricedPart[], line: number): string {
  const step = parts[0]!.price.trail.find((row) => row.contract?.line === line);
  return step ? `${step.source} does not hold for this line: ${step.why}` : `contract line ${line} is none of this customer for this item`;
}

/** Writes the first part to the line and each other to a line of its own behind it. */
async function storeParts({ trx, user }: CommandContext, line: OrderLineRecord, [first, ...rest]: readonly PricedPart[], pin: PricePin | null) {
  const unit = { unit: line.unit, ratio: { numerator: line.numerator, denominator: line.denominator } };
  await trx
    .updateTable('order_line')
    .set({ ...storedPart(unit, first!, pin), price_set_by: pin?.kind === 'manual' ? user.id : null })
    .where('id', '=', line.id)
    .execute();
  if (rest.length === 0) return;
  // What was routed was routed for the whole line.
  await trx.deleteFrom('line_route').where('line_id', '=', line.id).execute();
  await trx
    .updateTable('order_line')
    .set({ line_no: sql`line_no + ${rest.length}` })
    .where('order_id', '=', line.order_id)
    .where('line_no', '>', line.line_no)
    .execute();
  await trx
    .insertInto('order_line')
    .values(
      rest.map((part, at) => ({
        ...storedPart(unit, part, null),
        order_id: line.order_id,
        line_no: line.line_no + 1 + at,
        item: line.item,
        warehouse: line.warehouse,
        requested_day: line.requested_day,
        ship_to_id: line.ship_to_id,
        note: line.note,
      })),
    )
    .execute();
}
