/** The columns the list of orders may have; those that are shown stand in the address. */
export const COLUMNS = [
  { id: 'order', name: 'Order', width: 92 },
  { id: 'customer', name: 'Customer', width: 0 },
  { id: 'their', name: 'Their no.', width: 110 },
  { id: 'source', name: 'Came by', width: 74 },
  { id: 'entered', name: 'Entered', width: 96 },
  { id: 'from', name: 'From', width: 58 },
  { id: 'lines', name: 'Lines', width: 54, figure: true },
  { id: 'net', name: 'Net', width: 96, figure: true },
  { id: 'asked', name: 'Asked', width: 96 },
  { id: 'promised', name: 'Promised', width: 100 },
  { id: 'valid', name: 'Valid until', width: 100 },
  { id: 'days', name: 'Days', width: 300 },
  { id: 'state', name: 'State', width: 168 },
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
