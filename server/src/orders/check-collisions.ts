import { collisions, type Collision, type FieldValue, type FieldValues } from '@nockwright/core/orders';
import type { Trx } from '../database';
import { changedSince, readHistory } from '../events';
import { Refusal } from '../http/refusal';
import { orderLabel } from './lock-order';

interface Changing {
  readonly id: number;
  readonly number: string | null;
  readonly kind: 'order' | 'quote';
  readonly version: number;
}

const OF_THE_REQUEST = new Set(['version', 'seen']);

/**
 * Refuses a change of an order that was made for what no longer stands: field by field where it says what was `seen` of
 * the fields it changes, else wherever anything was changed since `version`. `now`: the fields as they stand, by the names
 * the wire has for them.
 */
export async function checkCollisions(
  trx: Trx,
  order: Changing,
  now: FieldValues,
  change: { readonly version: number; readonly seen?: object },
): Promise<void> {
  const wish = Object.fromEntries(Object.entries(change).filter(([field]) => !OF_THE_REQUEST.has(field))) as FieldValues;
  const seen = change.seen as FieldValues | undefined;
  if (!seen || Object.keys(wish).some((field) => !(field in seen))) {
    if (order.version === change.version) return;
    throw await changedSince(trx, { kind: 'order', key: order.id, label: orderLabel(order), given: change.version, current: order.version });
  }
  // Also where the version is the newest: it may have been shown while the field was being typed in.
  const found = collisions(now, seen, wish);
  if (found.length === 0) return;
  const [last] = await readHistory(trx, 'order', order.id);
  const who = last?.who ?? 'Someone else';
  throw new Refusal(
    'changed',
    `${who} changed ${found.map(({ field }) => inWords(field)).join(', ')} while you typed. Keep yours, or use theirs.`,
    found.map((collision) => asFault(collision, who)),
  );
}

function asFault({ field, mine, theirs }: Collision, who: string) {
  const shown = (value: FieldValue) => (value === null || value === '' ? 'nothing' : String(value));
  return { field: `body.${field}`, message: `you have ${shown(mine)}, it is now ${shown(theirs)}`, theirs: theirs === null ? null : String(theirs), who };
}

/** `requestedDay`: requested day. */
function inWords(field: string): string {
  return field.replace(/([a-z])([A-Z])/g, '$1 $2').toLowerCase();
}
