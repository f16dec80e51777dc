import type { BookRows, InboundRow, LineRow, StockRow } from './book-rows';
import type { BookTime } from './live-book';

/** Tuesday 9 March 2027, before the warehouse's cut-off. */
export const TUESDAY: BookTime = { today: '2027-03-09', localTime: '2027-03-09T09:30' };

/** A released line of 10 JAR at MAR, asked for today, of which nothing is promised yet. */
export function sampleLine(id: number, more: Partial<LineRow> = {}): LineRow {
  return {
    id,
    order_id: id,
    line_no: 1,
    item: 'JAR',
    warehouse: 'MAR',
    stock_quantity: '10',
    shipped: '0',
    cancelled: '0',
    reserved: '0',
    requested_day: null,
    number: String(20000 + id),
    state: 'released',
    alternative: false,
    priority: 3,
    place: null,
    entered: `2027-03-0${id}T10:00`,
    ship_complete: false,
    request_kind: 'ship_by',
    order_day: '2027-03-09',
    transit_days: 1,
    item_life: null,
    customer_life: null,
    drop_ship: '0',
    picking: '0',
    promised: null,
    ...more,
  };
}

export function sampleStock(on_hand: string, more: Partial<StockRow> = {}): StockRow {
  return { item: 'JAR', warehouse: 'MAR', on_hand, set_aside: '0', lots: null, ...more };
}

/** Ten JAR from a supplier, due on Monday the 15th. */
export function sampleInbound(more: Partial<InboundRow> = {}): InboundRow {
  return {
    kind: 'purchase',
    id: 7,
    document: 3,
    name: 'P7001/1',
    number: 'P7001',
    item: 'JAR',
    warehouse: 'MAR',
    expected_day: '2027-03-15',
    first_day: '2027-03-15',
    order_line_id: null,
    supplier: 'SUP',
    origin: 'Supplier',
    open: '10',
    cost: '2',
    ...more,
  };
}

/** Two warehouses that work Monday to Friday and put goods away in a day. */
export function sampleRows(more: Partial<BookRows>): BookRows {
  const place = { workdays: [1, 2, 3, 4, 5], cutoff: '14:00', receiving_days: 1, closed: [] };
  return {
    items: ['JAR'],
    warehouses: [
      { code: 'MAR', name: 'Marl Hill', ...place },
      { code: 'QUI', name: 'Quick Lane', ...place },
    ],
    lines: [],
    stock: [],
    inbound: [],
    plans: [],
    confidence: null,
    ...more,
  };
}
