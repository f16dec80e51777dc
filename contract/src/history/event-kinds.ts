import type { IsoDay } from '@nockwright/core/calendar';
import type { Happened, Of } from '../shape';
import type { EventKind } from './kind';
import { moneyEvents } from './money-events';
import { orderEvents, promiseEvents } from './order-events';
import { customerEvents, firmEvents, itemEvents, mailEvents, pricingEvents } from './record-events';
import { exchangeEvents, insideEvents, purchaseEvents, supplierEvents } from './supply-events';

/** Every kind of event there is, by its name. A name that was written stays: histories are kept. */
export const EVENT_KINDS = {
  ...orderEvents,
  ...promiseEvents,
  ...purchaseEvents,
  ...exchangeEvents,
  ...supplierEvents,
  ...insideEvents,
  ...customerEvents,
  ...mailEvents,
  ...firmEvents,
  ...itemEvents,
  ...pricingEvents,
  ...moneyEvents,
};

export type EventKindName = keyof typeof EVENT_KINDS;
export type FactsOf<K extends EventKindName> = Of<(typeof EVENT_KINDS)[K]['facts']>;

/** A kind with the facts it keeps. */
export type EventFacts = { readonly [K in EventKindName]: { readonly kind: K; readonly facts: FactsOf<K> } }[EventKindName];

/** What an event says in a history, as seen from `today`. One that was written in words before there were kinds says those. */
export function eventWords({ kind, facts, what }: Pick<Happened, 'kind' | 'facts' | 'what'>, today: IsoDay): string {
  const known = kind === null ? undefined : (EVENT_KINDS[kind as EventKindName] as EventKind<unknown> | undefined);
  return known ? known.words(facts, today) : (what ?? '');
}
