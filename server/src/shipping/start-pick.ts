import type { ItemCode, WarehouseCode } from '@nockwright/core/ids';
import type { Allocation } from '@nockwright/core/allocation';
import { noteOwn, takeLocks } from '../locks';
import type { PickView } from '@nockwright/contract/shipping';
import { compareDecimal, minus, type Quantity } from '@nockwright/core/money';
import type { ShipmentId } from '@nockwright/core/ids';
import { sql } from 'kysely';
import { insertRows, type Trx } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { invalid, Refusal } from '../http/refusal';
import { shipmentNumber } from '../numbers';
import { lockReleased, touchOrder, type OrderLineRecord } from '../orders';
import { findPlaces, storeParts } from './load-places';
import { readyLines } from './ready-lines';
import { readShipments } from './read-shipment';

export interface PickWish {
  readonly order: number;
  readonly warehouse: WarehouseCode;
  readonly lines: readonly { readonly line: number; readonly quantity: string }[];
}

/** Refuses a shipment more than the customer takes, and the last of them where something of the order would stay behind. */
async function checkShipments(
  trx: Trx,
  { id, number, most }: { readonly id: number; readonly number: string; readonly most: number },
  picked: readonly { readonly id: number; readonly quantity: string }[],
): Promise<void> {
  const { count } = await trx
    .selectFrom('shipment')
    .select(({ fn }) => fn.countAll<string>().as('count'))
    .where('order_id', '=', id)
    .where('state', 'in', ['picking', 'shipped'])
    .executeTakeFirstOrThrow();
  const made = Number(count) + 1;
  if (made > most)
    throw new Refusal(
      'conflict',
      `Order ${number} comes in at most ${most} ${most === 1 ? 'shipment' : 'shipments'}, and has had them: agree on another with the customer.`,
    );
  if (made < most) return;
  const { rows } = await sql<{ id: number; line_no: number; item: ItemCode; open: string }>`
    select l.id, l.line_no, l.item, (l.stock_quantity - l.shipped - l.cancelled
      - coalesce((select sum(x.quantity) from shipment_line x join shipment s on s.id = x.shipment_id and s.state = 'picking' where x.order_line_id = l.id), 0))::text as open
    from order_line l where l.order_id = ${id} order by l.line_no`.execute(trx);
  const left = rows
    .map((row) => ({ ...row, open: minus(row.open, picked.find((line) => line.id === row.id)?.quantity ?? '0') }))
    .filter((row) => compareDecimal(row.open, '0') > 0);
  if (left.length > 0)
    throw new Refusal(
      'conflict',
      `It would be the last of the ${most} ${most === 1 ? 'shipment' : 'shipments'} that the customer takes, and leave ${left.map((row) => `${row.open} ${row.item} (line ${row.line_no})`).join(', ')} behind: wait for them, or agree on another shipment.`,
    );
}

/** Sets goods of an order aside to be picked. Stock does not fall before they leave; nobody else can take them meanwhile. `chosen`: the bins and lots, where they are known already. */
export async function startPick(context: CommandContext, wish: PickWish, chosen?: Allocation['taken']): Promise<PickView> {
  const { trx, now } = context;
  const order = await lockReleased(trx, wish.order);
  const known = await trx.selectFrom('order_line').select(['id', 'line_no', 'item', 'warehouse', 'ship_to_id']).where('order_id', '=', wish.order).execute();
  const lines = checkWished(order, known, wish);
  await takeLocks(trx, { pools: lines });
  // All items of the order: whether it is complete depends on the lines that stay, too.
  const ready = await readyLines(
    trx,
    now,
    order,
    known.map((line) => line.item),
  );
  checkReady(order, wish, known, lines, ready);
  if (order.most_shipments !== null) await checkShipments(trx, { id: wish.order, number: order.number!, most: order.most_shipments }, lines);

  const found = chosen
    ? { taken: chosen, short: [] }
    : await findPlaces(
        trx,
        now,
        lines.map((line) => ({ line: line.id, item: line.item, warehouse: line.warehouse, quantity: line.quantity })),
      );
  if (found.short.length > 0) throw nowhere(lines, found.short);
  const { id, number } = await storeShipment(trx, order, wish.warehouse, lines[0]?.ship_to_id ?? null);
  await insertRows(
    trx,
    'shipment_line',
    lines.map((line) => ({ shipment_id: id, order_line_id: line.id, quantity: line.quantity })),
  );
  await storeParts(trx, id, found.taken);
  await touchOrder(context, wish.order);
  await recordEvent(context, {
    kind: 'pick.started',
    facts: { number, order: order.number!, warehouse: wish.warehouse, goods: lines.map(({ quantity, item }) => ({ quantity, item })) },
    subjects: [{ kind: 'order', key: wish.order }, { kind: 'shipment', key: id }, ...lines.map((line) => ({ kind: 'item' as const, key: line.item }))],
  });
  return (await readShipments(trx, [id]))[0]!;
}

/** A shipment of an order, numbered under it, with a consignment of its own. */
async function storeShipment(
  trx: Trx,
  order: Order,
  warehouse: WarehouseCode,
  place: number | null,
): Promise<{ readonly id: ShipmentId; readonly number: string }> {
  const { rows } = await sql<{ id: ShipmentId; number: string; consignment_id: number }>`
    with made as (
      insert into consignment (warehouse, customer_id, ship_to_id, carrier_service)
      values (${warehouse}, ${order.customer_id}, ${place ?? order.ship_to_id}, ${order.carrier_service}) returning id)
    insert into shipment (number, order_id, warehouse, state, carrier_service, consignment_id)
    select ${shipmentNumber(order)}, ${order.id}, ${warehouse}, 'picking', ${order.carrier_service}, made.id from made
    returning id, number, consignment_id`.execute(trx);
  const { consignment_id: consignment, ...shipment } = rows[0]!;
  noteOwn(trx, 'consignments', consignment);
  noteOwn(trx, 'shipments', shipment.id);
  return shipment;
}

/** Goods that no bin has for the lines: what is on hand is allocated, or does not last as long as it must. */
function nowhere(lines: readonly Wished[], short: readonly { readonly key: number; readonly quantity: string }[]): Refusal {
  const errors = short.map(({ key, quantity }) => {
    const at = lines.findIndex((line) => line.id === key);
    const { line_no: lineNo, item } = lines[at]!;
    return { field: `body.lines[${at}].quantity`, message: `line ${lineNo}, ${item}: no bin has ${quantity} of them free that last long enough` };
  });
  return new Refusal('conflict', `${errors.map((error) => error.message).join('. ')}. Nothing was allocated.`, errors);
}

type Order = Awaited<ReturnType<typeof lockReleased>>;
type Known = Pick<OrderLineRecord, 'id' | 'line_no' | 'item' | 'warehouse' | 'ship_to_id'>;
type Wished = Known & { readonly quantity: Quantity };

/** The lines to be picked: each once, of this warehouse, for one address. */
function checkWished(order: Order, known: readonly Known[], wish: PickWish): Wished[] {
  const lines = wish.lines.map(({ line, quantity }, at) => {
    const found = known.find((row) => row.id === line && row.warehouse === wish.warehouse);
    if (!found) throw invalid(`body.lines[${at}].line`, `order ${order.number} has no line ${line} at ${wish.warehouse}`);
    if (wish.lines.findIndex((row) => row.line === line) !== at) throw invalid(`body.lines[${at}].line`, `line ${found.line_no} stands twice`);
    return { ...found, quantity };
  });
  const place = lines[0]?.ship_to_id ?? null;
  const elsewhere = lines.findIndex((line) => line.ship_to_id !== place);
  if (elsewhere >= 0)
    throw invalid(
      `body.lines[${elsewhere}].line`,
      `line ${lines[elsewhere]!.line_no} goes to another address than line ${lines[0]!.line_no}: pick it by itself`,
    );
  return lines;
}

/** Refuses more than is on hand for the lines, and a part of what must leave complete. */
function checkReady(order: Order, wish: PickWish, known: readonly Known[], lines: readonly Wished[], ready: Awaited<ReturnType<typeof readyLines>>): void {
  const errors = lines.flatMap((line, at) => {
    const most = ready.find((row) => row.demand.lineId === line.id)?.quantity ?? '0';
    return compareDecimal(line.quantity, most) > 0
      ? [{ field: `body.lines[${at}].quantity`, message: `line ${line.line_no}, ${line.item}: ${line.quantity} asked, ${most} on hand for it` }]
      : [];
  });
  if (errors.length > 0) throw new Refusal('invalid', `${errors.map((error) => error.message).join('. ')}. Nothing was allocated.`, errors);
  if (order.ship_complete) {
    const missing = ready.filter(
      (row) =>
        row.demand.orderId === wish.order &&
        row.demand.warehouse === wish.warehouse &&
        known.find((line) => line.id === row.demand.lineId)?.ship_to_id === lines[0]?.ship_to_id &&
        !lines.some((line) => line.id === row.demand.lineId && compareDecimal(line.quantity, row.quantity) === 0),
    );
    if (missing.length > 0)
      throw new Refusal(
        'conflict',
        `Order ${order.number} must leave complete: ${missing.map((row) => `line ${row.demand.lineNo}`).join(', ')} would stay behind.`,
      );
  }
}
