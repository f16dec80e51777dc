import type { ItemCode } from '../ids';
import type { Quantity, UnitPrice, Decimal } from '../money';
import { readNumber, readTable, writeTable, type TableRead } from '../formats';
import { readUnit } from '../units';

/** A line of a contract as it is pasted or copied. */
export interface SheetLine {
  readonly item?: ItemCode;
  readonly group?: string;
  readonly kind: 'fixed' | 'off_list' | 'cost_plus';
  readonly unit?: string;
  readonly price?: UnitPrice;
  readonly percent?: Decimal;
  readonly minimum?: Quantity;
  readonly most?: Quantity;
}

/** A price of a list as it is pasted or copied. */
export interface SheetPrice {
  readonly item: ItemCode;
  readonly unit: string;
  readonly from: Decimal;
  readonly price: UnitPrice;
}

export interface SheetFault {
  /** Of the text, the first is 1. */
  readonly line: number;
  readonly field: string;
  readonly message: string;
}

export interface SheetRead<T> {
  /** What each column was taken for; null: not used. */
  readonly columns: readonly (string | null)[];
  readonly rows: readonly T[];
  readonly faults: readonly SheetFault[];
}

const LINE_COLUMNS = [
  { key: 'item', names: ['code', 'article', 'product', 'sku'] },
  { key: 'group', names: ['item group'] },
  { key: 'unit', names: ['uom', 'unit of measure'] },
  { key: 'price', names: ['fixed price', 'unit price', 'net price'] },
  { key: 'off', names: ['off list', 'off list %', 'discount', 'discount %'] },
  { key: 'plus', names: ['cost plus', 'cost plus %', 'mark-up', 'mark-up %'] },
  { key: 'minimum', names: ['min', 'minimum quantity', 'least'] },
  { key: 'most', names: ['max', 'maximum', 'most quantity', 'maximum quantity'] },
] as const;

const PRICE_COLUMNS = [
  { key: 'item', names: ['code', 'article', 'product', 'sku'] },
  { key: 'unit', names: ['uom', 'unit of measure'] },
  { key: 'from', names: ['quantity', 'from quantity', 'qty', 'break'] },
  { key: 'price', names: ['unit price', 'net price'] },
] as const;

/**
 * Reads lines of a contract from a pasted table: an item or a group with just one of a fixed price, a percentage off
 * list, or a percentage on cost; minimum and most in stocking units. A row with a fault gives no line.
 */
export function readContractLines(text: string): SheetRead<SheetLine> {
  return readRows(readTable(text, LINE_COLUMNS), ({ item, group, unit, price, off, plus, minimum, most }, fault) => {
    if (!item && !group) return fault('item', 'an item or a group is missing');
    const given = [price, off, plus].filter(Boolean).length;
    if (given !== 1)
      return fault('price', given === 0 ? 'a price, a percentage off list or one on cost is missing' : 'expected one of price, off list and cost plus');
    const number = (field: string, cell: string | undefined) => (cell === undefined ? undefined : (readNumber(cell) ?? fault(field, `${cell} is no number`)));
    const numbers = {
      price: number('price', price),
      percent: number(off ? 'off' : 'plus', off ?? plus),
      minimum: number('minimum', minimum),
      most: number('most', most),
    };
    const code = price ? unitOf(unit, fault) : undefined;
    if (Object.values(numbers).includes(null) || code === null) return null;
    return {
      ...(item ? { item: item.toUpperCase() } : {}),
      ...(group ? { group } : {}),
      kind: price ? 'fixed' : off ? 'off_list' : 'cost_plus',
      ...(code ? { unit: code } : {}),
      ...(Object.fromEntries(Object.entries(numbers).filter(([, value]) => value !== undefined)) as Pick<SheetLine, 'price' | 'percent' | 'minimum' | 'most'>),
    };
  });
}

/** Reads prices of a list from a pasted table: item, unit, the quantity they hold from (1 where none stands there), price. */
export function readPrices(text: string): SheetRead<SheetPrice> {
  return readRows(readTable(text, PRICE_COLUMNS), ({ item, unit, from, price }, fault) => {
    if (!item) return fault('item', 'the item is missing');
    if (!price) return fault('price', 'the price is missing');
    const code = unitOf(unit, fault);
    const [quantity, amount] = [readNumber(from ?? '1'), readNumber(price)];
    if (quantity === null) return fault('from', `${from} is no number`);
    if (amount === null) return fault('price', `${price} is no number`);
    return code === null ? null : { item: item.toUpperCase(), unit: code, from: quantity, price: amount };
  });
}

/** Lines of a contract as a spreadsheet takes them. */
export function writeContractLines(lines: readonly (Partial<Record<keyof SheetLine, string | null>> & { readonly kind: SheetLine['kind'] })[]): string {
  const percent = (line: (typeof lines)[number], kind: SheetLine['kind']) => (line.kind === kind ? (line.percent ?? null) : null);
  return writeTable([
    ['item', 'group', 'unit', 'price', 'off list %', 'cost plus %', 'minimum', 'most'],
    ...lines.map((line) => [
      line.item ?? null,
      line.group ?? null,
      line.kind === 'fixed' ? (line.unit ?? null) : null,
      line.kind === 'fixed' ? (line.price ?? null) : null,
      percent(line, 'off_list'),
      percent(line, 'cost_plus'),
      line.minimum ?? null,
      line.most ?? null,
    ]),
  ]);
}

/** Prices of a list as a spreadsheet takes them. */
export function writePrices(rows: readonly SheetPrice[]): string {
  return writeTable([['item', 'unit', 'from', 'price'], ...rows.map(({ item, unit, from, price }) => [item, unit, from, price])]);
}

type Fault = (field: string, message: string) => null;

function readRows<K extends string, T>(table: TableRead<K>, read: (cells: Partial<Record<K, string>>, fault: Fault) => T | null): SheetRead<T> {
  const faults: SheetFault[] = [];
  const rows: T[] = [];
  for (const { line, cells } of table.rows) {
    const row = read(cells, (field, message) => {
      faults.push({ line, field, message });
      return null;
    });
    if (row !== null) rows.push(row);
  }
  return { columns: table.columns, rows, faults };
}

function unitOf(unit: string | undefined, fault: Fault): string | null {
  if (!unit) return fault('unit', 'the unit is missing');
  return readUnit(unit) ?? fault('unit', `${unit} is no unit`);
}
