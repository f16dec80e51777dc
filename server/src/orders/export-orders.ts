import type { OrderRow } from '@nockwright/contract/orders';
import { writeCsv } from '@nockwright/core/formats';

const COLUMNS: readonly (readonly [title: string, value: (row: OrderRow) => string])[] = [
  ['order', (row) => row.number ?? `draft ${row.id}`],
  ['kind', (row) => row.kind],
  ['customer', (row) => row.customer],
  ['town', (row) => row.town],
  ['their number', (row) => row.poNumber],
  ['came by', (row) => row.source],
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

/** Orders as comma-separated values (RFC 4180), to be saved. */
export function ordersCsv(rows: readonly OrderRow[]): Response {
  const table = [COLUMNS.map(([title]) => title), ...rows.map((row) => COLUMNS.map(([, value]) => value(row)))];
  // The mark tells a spreadsheet that the letters are UTF-8; without it many read ü as two.
  return new Response(`\ufeff${writeCsv(table)}`, {
    headers: { 'Content-Type': 'text/csv; charset=utf-8', 'Content-Disposition': 'attachment; filename="orders.csv"' },
  });
}
