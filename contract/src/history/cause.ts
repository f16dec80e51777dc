import type { IsoDay } from '@nockwright/core/calendar';
import { eventWords, type EventFacts } from './event-kinds';

/** What brought something else about: an act with its facts, the order it was done to where its facts do not say, and the reason that was given. */
export type Cause = EventFacts & { readonly order?: string; readonly note?: string };

/** A cause as it is kept. */
export interface KeptCause {
  readonly kind: string;
  readonly facts: unknown;
  readonly order?: string;
  readonly note?: string;
}

/** `order 20417: line 2 (JAR) raised to 40 each, was 30: they build a second shed`. */
export function causeWords({ kind, facts, order, note }: KeptCause, today: IsoDay): string {
  return `${order ? `order ${order}: ` : ''}${eventWords({ kind, facts, what: null }, today)}${note ? `: ${note}` : ''}`;
}
