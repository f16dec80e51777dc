import { dayNumber, isoDay } from '../calendar';
import { compareDecimal, least, minus, plus } from '../money';
import { lifeAsked, openQuantity } from '../orders';
import type { BookDemand, BookOrder } from '../promise';
import { requestedDayOf } from './asked';
import type { BookRows, LineRow } from './book-rows';
import type { BookTime, DemandInfo, Turn } from './live-book';
import { draftNumber, inTurn, placeEntered } from './turns';

/** What is open of lines, whose turn it is, and what the ids stand for. */
export interface OpenDemand {
  readonly lines: readonly LineRow[];
  readonly orders: readonly BookOrder[];
  readonly turns: ReadonlyMap<string, Turn>;
  readonly demand: readonly BookDemand[];
  readonly demands: ReadonlyMap<string, DemandInfo>;
  readonly demandOfLine: ReadonlyMap<number, string>;
}

export function openDemand(rows: BookRows, { localTime }: BookTime): OpenDemand {
  const lines = withPlannedDropShips(rows);
  const orders = new Map<number, BookOrder>();
  const turns = new Map<string, Turn>();
  let placed = false;
  const demands = new Map<string, DemandInfo>();
  const demandOfLine = new Map<number, string>();
  const demand: BookDemand[] = [];
  for (const line of lines) {
    const open = minus(openQuantity(line), line.drop_ship);
    if (compareDecimal(open, '0') <= 0) continue;
    const offered = line.state !== 'released';
    // An alternative neither waits for the rest of its quote nor keeps it waiting.
    const key = line.alternative ? -line.order_id : line.order_id;
    const orderNumber = offered ? `${draftNumber(line.order_id)}${line.alternative ? ' or' : ''}` : line.number!;
    if (!orders.has(key)) {
      const entered = offered ? localTime : line.entered;
      orders.set(key, { id: orderNumber, priority: line.priority, entered, shipComplete: line.ship_complete && !line.alternative });
      turns.set(orderNumber, { priority: line.priority, place: line.place ?? placeEntered(entered) });
      placed ||= line.place !== null;
    }
    const id = `${orderNumber}/${line.line_no}`;
    demands.set(id, { lineId: line.id, lineNo: line.line_no, orderId: line.order_id, orderNumber, item: line.item, warehouse: line.warehouse });
    demandOfLine.set(line.id, id);
    demand.push({
      id,
      order: orderNumber,
      item: line.item,
      warehouse: line.warehouse,
      quantity: Number(open),
      requested: requestedDayOf(line, line),
      partial: true,
      ...(line.item_life === null ? {} : { lifeDays: lifeAsked({ item: line.item_life, customer: line.customer_life, transitDays: line.transit_days }) }),
      ...(line.promised ? { promised: line.promised.map(({ day, quantity }) => ({ date: day, quantity: Number(quantity) })) } : {}),
    });
  }
  return { lines, orders: placed ? inTurn([...orders.values()], turns) : [...orders.values()], turns, demand, demands, demandOfLine };
}

/** The day until which goods for a line must last if they leave today. */
export function lastsUntil(line: Pick<LineRow, 'item_life' | 'customer_life' | 'transit_days'>, today: string): string {
  if (line.item_life === null) return today;
  return isoDay(dayNumber(today) + lifeAsked({ item: line.item_life, customer: line.customer_life, transitDays: line.transit_days }));
}

/** A drop shipment that is planned takes its quantity off the warehouse, as one that is bought does. */
function withPlannedDropShips({ lines, plans }: BookRows): readonly LineRow[] {
  const planned = new Map<number, string>();
  for (const plan of plans) if (plan.kind === 'drop_ship') planned.set(plan.line_id, plus(planned.get(plan.line_id) ?? '0', plan.quantity));
  return lines.map((line) => ({ ...line, drop_ship: plus(line.drop_ship, least(planned.get(line.id) ?? '0', line.stock_quantity)) }));
}
