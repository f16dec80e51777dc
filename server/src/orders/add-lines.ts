import type { OrderId } from '@nockwright/core/ids';
import type { orderRoutes, OrderView } from '@nockwright/contract/orders';
import type { BodyOf } from '@nockwright/contract/shape';
import { decideNewLines, type DraftFacts, type NewLine, type NewLineWish } from '@nockwright/core/orders';
import type { Selectable } from 'kysely';
import { insertRows, together, type Database, type Trx } from '../database';
import { recordEvents } from '../events';
import type { CommandContext } from '../http/context';
import { Refusal } from '../http/refusal';
import { changeOrder } from './change-order';
import { loadContractUse, loadSoldItems } from './draft-line';
import { lockDraft, touchOrder } from './lock-order';
import { readOrder } from './read-order';
import { noteTasks } from './tasks';

type Draft = Selectable<Database['sales_order']>;

/** Adds a line at the end of a draft. */
export async function addLine(context: CommandContext, orderId: OrderId, wish: NewLineWish): Promise<OrderView> {
  const order = await lockDraft(context.trx, orderId);
  await appendLines(context, order, [wish], () => 'body');
  return readOrder(context.trx, context.now, orderId);
}

/** Adds lines to a draft at once, and what was read of its head, all or nothing; every fault is told with its line. */
export async function addLines(context: CommandContext, orderId: OrderId, wish: BodyOf<typeof orderRoutes.addLines>): Promise<OrderView> {
  const { trx, now } = context;
  const order = await lockDraft(trx, orderId);
  await appendLines(context, order, wish.lines, (at) => `body.lines[${at}]`);
  await noteTasks(context, trx, orderId, wish.tasks ?? []);
  const head = Object.fromEntries(HEAD.flatMap((field) => (wish[field] === undefined ? [] : [[field, wish[field]]])));
  if (Object.keys(head).length === 0) return readOrder(trx, now, orderId);
  // Lines go behind what others added meanwhile; what stands in the head is compared with what was seen of it.
  const { version } = await trx.selectFrom('sales_order').select('version').where('id', '=', orderId).executeTakeFirstOrThrow();
  const before = wish.version === order.version ? version : wish.version;
  return changeOrder(context, orderId, { version: before, ...(wish.seen ? { seen: wish.seen } : {}), ...head });
}

const HEAD = ['poNumber', 'requestKind', 'requestedDay'] as const;

/** Writes lines at the end of a draft that is locked. `place`: where a wish stands in the request. */
async function appendLines(context: CommandContext, order: Draft, wishes: readonly NewLineWish[], place: (at: number) => string): Promise<void> {
  if (wishes.length === 0) return;
  const { trx, now } = context;
  const decided = decideNewLines(await loadDraftFacts(trx, order, wishes, now.today), wishes, now.today);
  if (!decided.ok) {
    const errors = decided.faults.map(({ at, field, message }) => ({ field: field === '' ? place(at) : `${place(at)}.${field}`, message }));
    throw new Refusal('invalid', errors.map(({ field, message }) => `${field}: ${message}`).join('; '), errors);
  }
  await storeLines(trx, order.id, decided.lines);
  await touchOrder(context, order.id);
  await recordEvents(
    context,
    decided.lines.map(({ lineNo, item, quantity, unit, price: { price, source } }) => ({
      kind: 'line.added' as const,
      facts: { lineNo, item, quantity, unit, price, source },
      after: { item, quantity, unit, price, source },
      subjects: [{ kind: 'order' as const, key: order.id }],
    })),
  );
}

async function loadDraftFacts(trx: Trx, order: Draft, wishes: readonly NewLineWish[], today: string): Promise<DraftFacts> {
  const placeOf = (wish: NewLineWish) => wish.shipTo ?? order.ship_to_id;
  const soldTo = async (db: Trx, shipTo: number) => {
    const codes = [...new Set(wishes.filter((wish) => placeOf(wish) === shipTo).map((wish) => wish.item))];
    return [shipTo, await loadSoldItems(db, codes, { ...order, ship_to_id: shipTo }, today)] as const;
  };
  return together(trx, async (db) => {
    const [lines, warehouses, shipTos, sold] = await Promise.all([
      loadContractUse(db, order.id),
      db.selectFrom('warehouse').select('code').orderBy('code').execute(),
      db.selectFrom('ship_to').select('id').where('customer_id', '=', order.customer_id).execute(),
      Promise.all([...new Set(wishes.map(placeOf))].map((shipTo) => soldTo(db as Trx, shipTo))),
    ]);
    return {
      kind: order.kind,
      warehouse: order.warehouse,
      shipTo: order.ship_to_id,
      lines,
      warehouses: warehouses.map((row) => row.code),
      shipTos: shipTos.map((row) => row.id),
      sold: new Map(sold),
    };
  });
}

async function storeLines(trx: Trx, orderId: OrderId, lines: readonly NewLine[]): Promise<void> {
  await insertRows(
    trx,
    'order_line',
    lines.map(({ ratio, price, ...line }) => ({
      order_id: orderId,
      line_no: line.lineNo,
      item: line.item,
      unit: line.unit,
      numerator: ratio.numerator,
      denominator: ratio.denominator,
      quantity: line.quantity,
      stock_quantity: line.stockQuantity,
      price: price.price,
      price_source: price.source,
      price_trail: JSON.stringify(price.trail),
      contract_line_id: price.contractLine,
      warehouse: line.warehouse,
      requested_day: line.requestedDay,
      note: line.note,
      ship_to_id: line.shipTo,
      alternative: line.alternative,
      alternative_to: line.alternativeTo,
    })),
    ['price_trail'],
  );
}
