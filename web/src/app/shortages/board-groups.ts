import type { ShortageRow } from '@nockwright/contract/shortages';
import { shortDay } from '@nockwright/core/calendar';
import { sum } from '@nockwright/core/money';
import type { Choice } from '../paper';

export type GroupBy = 'none' | 'item' | 'supplier' | 'customer' | 'day';

export const GROUP_CHOICES: readonly Choice<GroupBy>[] = [
  ['none', 'not grouped'],
  ['item', 'by item'],
  ['supplier', 'by supplier'],
  ['customer', 'by customer'],
  ['day', 'by day asked'],
];

/** Rows that stand together, under their name; a group of all has none. */
export interface Group {
  readonly name: string;
  readonly rows: readonly ShortageRow[];
  readonly value: string;
  /** Its lines, each once. */
  readonly lines: readonly number[];
}

/** Rows in groups: days in sequence, the others by what is at stake. Within a group rows stand as they came. */
export function groupsOf(rows: readonly ShortageRow[], by: GroupBy, today: string): Group[] {
  const groups = new Map<string, ShortageRow[]>();
  for (const row of rows) {
    const key = keyOf(row, by);
    const group = groups.get(key);
    if (group) group.push(row);
    else groups.set(key, [row]);
  }
  const made = [...groups].map(([key, list]) => ({
    key,
    name: by === 'day' ? shortDay(key, today) : key,
    rows: list,
    value: sum(list.map((row) => row.value)),
    lines: [...new Set(list.map((row) => row.line))],
  }));
  if (by === 'day') made.sort((a, b) => (a.key < b.key ? -1 : 1));
  else made.sort((a, b) => Number(b.value) - Number(a.value));
  return made;
}

function keyOf(row: ShortageRow, by: GroupBy): string {
  if (by === 'item') return `${row.item}, ${row.description}`;
  if (by === 'supplier') return row.suppliers[0] ?? 'nobody sells it';
  if (by === 'customer') return row.customer;
  return by === 'day' ? row.requested : '';
}
