import { eventWords } from '@nockwright/contract/history';
import type { Happened } from '@nockwright/contract/shape';
import { TODAY } from './test-desk';

/** What an event of a history says on the day of the tests. */
export function said(row: Happened): string {
  return eventWords(row, TODAY);
}
