/**
 * The columns the list of orders may have; those that are shown stand in the address. `rank`: the higher, the sooner it gives
 * way where the list is narrow; those of rank 0 always stay.
 */
export const COLUMNS = [
  { id: 'order', name: 'Order', width: 92, rank: 0 },
  { id: 'customer', name: 'Customer', width: 0, rank: 0 },
  { id: 'their', name: 'Customer PO', width: 110, rank: 5 },
  { id: 'source', name: 'Source', width: 74, rank: 9 },
  { id: 'entered', name: 'Entered', width: 96, rank: 8 },
  { id: 'from', name: 'From', width: 58, rank: 7 },
  { id: 'lines', name: 'Lines', width: 54, figure: true, rank: 6 },
  { id: 'net', name: 'Net', width: 96, figure: true, rank: 3 },
  { id: 'asked', name: 'Requested', width: 96, rank: 2 },
  { id: 'promised', name: 'Promised', width: 100, rank: 2 },
  { id: 'valid', name: 'Valid until', width: 100, rank: 3 },
  { id: 'days', name: 'Days', width: 300, rank: 4 },
  { id: 'state', name: 'State', width: 178, rank: 0 },
] as const;
export type Column = (typeof COLUMNS)[number];
export type ColumnId = Column['id'];

/** What is shown until somebody chooses otherwise. */
export const USUAL_COLUMNS: readonly ColumnId[] = ['order', 'customer', 'their', 'lines', 'net', 'asked', 'days', 'state'];

/** The columns of `their,net`, in the sequence of the sheet; the order's own is always there. What is no column is left out. */
export function readColumns(text: string | undefined): readonly ColumnId[] {
  if (!text) return USUAL_COLUMNS;
  const wanted = new Set(text.split(','));
  const chosen = COLUMNS.map((column) => column.id).filter((id) => id === 'order' || wanted.has(id));
  return chosen.length > 1 ? chosen : USUAL_COLUMNS;
}

/** As they stand in the address; null where they are the usual ones. */
export function writeColumns(columns: readonly ColumnId[]): string | null {
  const text = columns.join(',');
  return text === USUAL_COLUMNS.join(',') ? null : text;
}

/** A name and its town are read at this width. */
const LEAST_CUSTOMER = 112;
const USUAL_CUSTOMER = 220;
const MARK = 34;
const PHONE = 500;
const SHORT_STATE = 128;
const MOST_RULER = 620;

/** The columns that fit into a width, with the width of each; those that say least give way first, and the ruler has what is left over. */
export function fitting(columns: readonly Column[], width: number): readonly (Column & { readonly drawn: number })[] {
  const shown = [...columns];
  // On a telephone the state says its first word.
  const widthOf = ({ id, width: own }: Column): number => (id === 'state' && width < PHONE ? SHORT_STATE : own);
  const taken = (least: number) => MARK + shown.reduce((sum, column) => sum + (widthOf(column) || least), 0);
  while (taken(LEAST_CUSTOMER) > width) {
    const next = shown.reduce((a, b) => (b.rank > a.rank ? b : a));
    if (next.rank === 0) break;
    shown.splice(shown.indexOf(next), 1);
  }
  const spare = Math.max(0, width - taken(USUAL_CUSTOMER));
  return shown.map((column) => ({ ...column, drawn: column.id === 'days' ? Math.min(MOST_RULER, column.width + Math.round(spare * 0.6)) : widthOf(column) }));
}
