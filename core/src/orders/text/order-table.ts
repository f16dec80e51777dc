import { readDay } from '../../calendar';
import { readNumber, splitTable } from '../../formats';
import { readUnit } from '../../units';

/** What a column of a pasted table holds of an order line. */
export const ORDER_COLUMNS = ['item', 'quantity', 'unit', 'day', 'none'] as const;
export type OrderColumn = (typeof ORDER_COLUMNS)[number];

/** Rows pasted from a spreadsheet, and what each column is taken for until somebody says otherwise. */
export interface OrderTable {
  readonly columns: readonly OrderColumn[];
  readonly rows: readonly (readonly string[])[];
}

const NAMES: Readonly<Record<Exclude<OrderColumn, 'none'>, RegExp>> = {
  item: /^(item|code|article|sku|part|product)/i,
  quantity: /^(quantity|qty|how many|pieces|number|order)/i,
  unit: /^(unit|uom|u\/m|per)/i,
  day: /^(day|date|due|wanted|deliver|ship)/i,
};
const CODE = /^[a-z]{2,}[-/.\w]*\d[-/.\w]*$/i;
/** Of the cells of a column, those that must look so for it to be taken for that. */
const MOST = 0.6;

/**
 * A text as a table of order lines; null where it is none: a table has at least two rows, with tabs between their cells.
 * A first row that names its columns is taken by its names; else columns are told by what is in them: units, days, whole
 * numbers, codes or the longest words.
 */
export function readOrderTable(text: string, today: string): OrderTable | null {
  const lines = text.split(/\r?\n/).filter((line) => line.trim() !== '');
  if (lines.length < 2 || !lines.every((line) => line.includes('\t'))) return null;
  const rows = splitTable(lines.join('\n'), '\t');
  const width = Math.max(...rows.map((row) => row.length));
  const named = Array.from({ length: width }, (_, at): OrderColumn => nameOf(rows[0]![at] ?? ''));
  if (named.filter((column) => column !== 'none').length >= 2) return { columns: once(named), rows: rows.slice(1) };
  return { columns: guess(rows, width, today), rows };
}

/** The table as lines of an order are typed: quantity, unit, item, day. What has no column is left out. */
export function asOrderText({ columns, rows }: OrderTable): string {
  const cell = (row: readonly string[], wanted: OrderColumn) =>
    columns
      .flatMap((column, at) => (column === wanted ? [row[at] ?? ''] : []))
      .join(' ')
      .trim();
  return rows
    .map((row) => [numberOf(cell(row, 'quantity')), cell(row, 'unit'), cell(row, 'item'), cell(row, 'day')].filter(Boolean).join(' '))
    .filter(Boolean)
    .join('\n');
}

function nameOf(cell: string): OrderColumn {
  return (Object.entries(NAMES) as [OrderColumn, RegExp][]).find(([, name]) => name.test(cell.trim()))?.[0] ?? 'none';
}

/** Only the first column of a kind is taken for it. */
function once(columns: readonly OrderColumn[]): OrderColumn[] {
  return columns.map((column, at) => (columns.indexOf(column) === at ? column : 'none'));
}

function guess(rows: readonly (readonly string[])[], width: number, today: string): OrderColumn[] {
  const columns = new Array<OrderColumn>(width).fill('none');
  const share = (at: number, is: (cell: string) => boolean) => {
    const cells = rows.map((row) => row[at] ?? '').filter(Boolean);
    return cells.length === 0 ? 0 : cells.filter(is).length / cells.length;
  };
  const take = (column: OrderColumn, is: (cell: string) => boolean) => {
    const at = columns.findIndex((taken, index) => taken === 'none' && share(index, is) >= MOST);
    if (at >= 0) columns[at] = column;
    return at >= 0;
  };
  take('unit', (cell) => readUnit(cell) !== null);
  take('quantity', (cell) => /^\d+$/.test(readNumber(cell) ?? ''));
  if (!take('item', (cell) => CODE.test(cell))) {
    const length = (at: number) => rows.reduce((sum, row) => sum + (row[at] ?? '').length, 0);
    const free = columns.flatMap((column, at) => (column === 'none' ? [at] : []));
    if (free.length > 0) columns[free.reduce((a, b) => (length(b) > length(a) ? b : a))] = 'item';
  }
  take('day', (cell) => readNumber(cell) === null && readDay(cell, today) !== null);
  return columns;
}

function numberOf(text: string): string {
  return readNumber(text) ?? text;
}
