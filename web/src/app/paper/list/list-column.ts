/** A column of a list. Where the list is narrow, those with the highest `from` give way first. */
export interface ListColumn<R> {
  readonly id: string;
  /** A noun, with the unit or currency once. */
  readonly name: string;
  /** What the name is short for. */
  readonly title?: string;
  readonly figure?: boolean;
  /** What the cell says: drawn where no template draws it, and exported. */
  readonly text: (row: R) => string;
  /** What rows are sorted by; a column without it is none to sort by. */
  readonly sort?: (row: R) => string | number | null;
  /** Where its text leads, as a router link. */
  readonly link?: (row: R) => unknown[];
  /** Shown from this width of the list on, in pixels. */
  readonly from?: number;
  /** Shown only where somebody chooses it. */
  readonly extra?: boolean;
}

/** Which column a list is sorted by. */
export interface ListSort {
  readonly id: string;
  readonly falls: boolean;
}

/** `expected`, `-expected` as the address has it; null where it names no column to sort by. */
export function readSort<R>(columns: readonly ListColumn<R>[], text: string | null): ListSort | null {
  const falls = text?.startsWith('-') ?? false;
  const id = falls ? text!.slice(1) : text;
  return columns.some((column) => column.id === id && column.sort) ? { id: id!, falls } : null;
}

/** What the address says after a column was asked for: rising, then falling, then as the list comes. */
export function nextSort(sort: ListSort | null, id: string): string | null {
  if (sort?.id !== id) return id;
  return sort.falls ? null : `-${id}`;
}

/** The rows in the sequence of a column; rows alike stay as they were, and what has no value stands last either way. */
export function sorted<R>(rows: readonly R[], columns: readonly ListColumn<R>[], sort: ListSort | null): readonly R[] {
  const value = columns.find((column) => column.id === sort?.id)?.sort;
  if (!sort || !value) return rows;
  const way = sort.falls ? -1 : 1;
  return [...rows].sort((a, b) => {
    const [x, y] = [value(a), value(b)];
    if (x === null || y === null) return (x === null ? 1 : 0) - (y === null ? 1 : 0);
    return way * (typeof x === 'number' && typeof y === 'number' ? x - y : String(x).localeCompare(String(y)));
  });
}

/** The columns of `number,state`, in the sequence of the list; the first is always there. Nothing that is known: the usual ones. */
export function chosenColumns<R>(columns: readonly ListColumn<R>[], text: string | null): readonly ListColumn<R>[] {
  const wanted = new Set(text?.split(',') ?? []);
  const chosen = columns.filter((column, at) => at === 0 || wanted.has(column.id));
  return chosen.length > 1 ? chosen : columns.filter((column) => !column.extra);
}
