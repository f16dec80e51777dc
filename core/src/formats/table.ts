import Papa from 'papaparse';

/** A column that a pasted table may have: its name, what else it is called, and whether a row must have it. */
export interface Column<K extends string> {
  readonly key: K;
  readonly names: readonly string[];
}

export interface TableRow<K extends string> {
  /** Of the text, the first is 1. */
  readonly line: number;
  readonly cells: Readonly<Partial<Record<K, string>>>;
}

export interface TableRead<K extends string> {
  /** What each column of the text was taken for; null: nothing that is known. */
  readonly columns: readonly (K | null)[];
  readonly headed: boolean;
  readonly rows: readonly TableRow<K>[];
}

/**
 * Reads a table as it is pasted from a spreadsheet or a CSV file (RFC 4180; comma, semicolon or tab is found out). Where
 * its first row names columns they are taken by name, else in the order given here. Empty rows and cells are left out.
 */
export function readTable<K extends string>(text: string, columns: readonly Column<K>[]): TableRead<K> {
  const { data } = Papa.parse<string[]>(text.replace(/[\r\n]+$/, ''), { delimitersToGuess: ['\t', ';', ','], skipEmptyLines: false });
  const rows = data
    .map((cells, at) => ({ line: at + 1, cells: cells.map((cell) => cell.trim().replace(MARKED, '').trim()) }))
    .filter((row) => row.cells.some(Boolean));
  const first = rows[0];
  if (!first) return { columns: [], headed: false, rows: [] };
  const named = first.cells.map((cell) => columnCalled(cell, columns));
  const headed = named.filter(Boolean).length >= Math.min(2, columns.length);
  const width = Math.max(...rows.map((row) => row.cells.length));
  const keys = Array.from({ length: width }, (_, at) => (headed ? (named[at] ?? null) : (columns[at]?.key ?? null)));
  return {
    columns: keys,
    headed,
    rows: rows.slice(headed ? 1 : 0).map(({ line, cells }) => ({
      line,
      cells: Object.fromEntries(keys.flatMap((key, at) => (key && cells[at] ? [[key, cells[at]]] : []))) as Partial<Record<K, string>>,
    })),
  };
}

/** The cells of a text, row by row, the spaces around them taken off. */
export function splitTable(text: string, delimiter: string): string[][] {
  return Papa.parse<string[]>(text, { delimiter }).data.map((cells) => cells.map((cell) => cell.trim()));
}

/** What a spreadsheet would take for a formula, or is marked as one already. Source: OWASP, CSV Injection. */
const FORMULA = /^'*[=+\-@\t\r]/;
/** The same, kept from being one: the mark shows it as text, and is taken off when it is read. */
const MARKED = /^'(?='*[=+\-@\t\r])/;

/** Rows as a spreadsheet takes them from the clipboard: tabs between cells, a line a row. Text that it would take for a formula is kept from being one. */
export function writeTable(rows: readonly (readonly (string | null)[])[]): string {
  return Papa.unparse(
    rows.map((row) => row.map((cell) => ((cell ?? '').match(FORMULA) ? `'${cell}` : (cell ?? '')))),
    { delimiter: '\t', newline: '\n' },
  );
}

/**
 * Rows as comma-separated values (RFC 4180: lines end in CR LF, fields with commas or quotes are quoted). Text that a
 * spreadsheet would take for a formula is kept from being one.
 */
export function writeCsv(rows: readonly (readonly string[])[]): string {
  return `${Papa.unparse(rows as string[][], { newline: '\r\n', escapeFormulae: true })}\r\n`;
}

/** A number as it is typed in a spreadsheet, as decimal text: `1,234.50`, `0,52`, `12 %`; null where it is none. */
export function readNumber(text: string): string | null {
  const plain = text.replace(/[\s%€$£\u00a0']/g, '');
  if (/^\d+(\.\d+)?$/.test(plain)) return plain;
  // A comma with three digits behind each is for thousands; one with other digits behind it is a decimal comma.
  if (/^\d{1,3}(,\d{3})+(\.\d+)?$/.test(plain)) return plain.replaceAll(',', '');
  if (/^\d{1,3}(\.\d{3})+,\d+$/.test(plain)) return plain.replaceAll('.', '').replace(',', '.');
  if (/^\d+,\d+$/.test(plain)) return plain.replace(',', '.');
  return null;
}

function columnCalled<K extends string>(cell: string, columns: readonly Column<K>[]): K | null {
  const wanted = plainName(cell);
  if (wanted === '') return null;
  return columns.find((column) => plainName(column.key) === wanted || column.names.some((name) => plainName(name) === wanted))?.key ?? null;
}

function plainName(text: string): string {
  return text.toLowerCase().replace(/[^a-z%]/g, '');
}
