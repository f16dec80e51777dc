import type { OrderRow } from '@nockwright/contract/orders';
import { writeCsv } from '@nockwright/core/formats';
import type { Task } from '../work';

const COLUMNS: readonly (readonly [title: string, value: (row: OrderRow) => string])[] = [
  ['order', (row) => row.number ?? `draft ${row.id}`],
  ['kind', (row) => row.kind],
  ['customer', (row) => row.customer],
  ['town', (row) => row.town],
  ['their number', (row) => row.poNumber],
  ['source', (row) => row.source],
  ['entered', (row) => row.entered],
  ['from', (row) => row.warehouse],
  ['asked for', (row) => row.requestedDay],
  ['promised', (row) => row.promisedDay ?? ''],
  ['valid until', (row) => row.validUntil ?? ''],
  ['state', (row) => row.progress],
  ['lines', (row) => String(row.lines)],
  ['waiting lines', (row) => String(row.waiting)],
  ['net', (row) => row.amount],
];

/** Orders as comma-separated values (RFC 4180). */
export const ordersCsvTask: Task<readonly OrderRow[], string> = {
  name: 'ordersCsv',
  run: (rows) => writeCsv([COLUMNS.map(([title]) => title), ...rows.map((row) => COLUMNS.map(([, value]) => value(row)))]),
};

/** Comma-separated values as a reply, to be saved. */
export function ordersReply(csv: string): Response {
  // The mark tells a spreadsheet that the letters are UTF-8; without it many read ü as two.
  return new Response(`\ufeff${csv}`, {
    headers: { 'Content-Type': 'text/csv; charset=utf-8', 'Content-Disposition': 'attachment; filename="orders.csv"' },
  });
}
