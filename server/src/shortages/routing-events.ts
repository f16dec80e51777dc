import type { Dealing } from '@nockwright/contract/history';
import type { Happening } from '../events';
import type { MadeDocument } from '../supply';
import type { RoutedRecord } from './store-routing';

/** An event for each order; what was made is told with the first. */
export function happenings(routed: readonly RoutedRecord[], documents: readonly MadeDocument[], dealt: ReadonlyMap<number, readonly Dealing[]>): Happening[] {
  const orders = new Map<number, RoutedRecord[]>();
  for (const row of routed) orders.set(row.record.order_id, [...(orders.get(row.record.order_id) ?? []), row]);
  const made = documents.map(({ kind, number }) => ({ kind, number }));
  return [...orders].map(([order, rows]) => ({
    kind: 'lines.routed' as const,
    facts: {
      lines: rows.map(({ record, decided }) => ({ lineNo: record.line_no, item: record.item, parts: decided.parts, dealt: dealt.get(record.id) ?? [] })),
      made,
    },
    after: rows.map(({ record, decided }) => ({ lineNo: record.line_no, parts: decided.parts })),
    subjects: [
      { kind: 'order', key: order },
      ...rows.map(({ record }) => ({ kind: 'item' as const, key: record.item })),
      ...documents.map(({ kind, id }) => ({ kind, key: id })),
    ],
  }));
}
