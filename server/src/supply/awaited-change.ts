import type { IsoDay } from '@nockwright/core/calendar';
import type { Quantity } from '@nockwright/core/money';
import type { PurchaseLineRecord } from './load-purchase';

/** What is still awaited of a purchase line after a change, and the day it comes, or leaves for the customer. */
export interface AwaitedChange {
  readonly line: PurchaseLineRecord;
  readonly day: IsoDay;
  readonly open: Quantity;
}

/** Nothing more comes of a line. */
export function nothingMore(line: PurchaseLineRecord): AwaitedChange {
  return { line, day: line.expected_day, open: '0' };
}
