import type { ItemFound } from '@nockwright/contract/items';
import type { OrderView } from '@nockwright/contract/orders';
import { readQuickLine, type QuickLine } from '@nockwright/core/orders';
import { unitName } from '@nockwright/core/units';
import type { LineWish } from '../order-lines';

/** A line as it was typed and what became of it. */
export interface TypedLine {
  /** The idempotency key it is sent with, however often. */
  readonly key: string;
  readonly text: string;
  readonly read: TypedRead;
  readonly state: 'finding' | 'ready' | 'adding' | 'refused';
  /** Why it was refused; empty where it was not. */
  readonly fault: string;
  /** The item that was chosen for it, or found. */
  readonly item: ItemFound | null;
  /** What was sent; a repeat sends the same. */
  readonly wish: LineWish | null;
}

/** What a typed text says: on a quote `or …` is offered instead of the line above, `and …` as an extra. */
export interface TypedRead extends QuickLine {
  readonly stands: 'or' | 'and' | null;
}

export function readTyped(text: string, kind: OrderView['kind'], today: string): TypedRead {
  const word = kind === 'quote' ? /^\s*(or|and)\s+/i.exec(text) : null;
  return { ...readQuickLine(text.slice(word?.[0].length ?? 0), today), stands: (word?.[1]?.toLowerCase() as 'or' | 'and' | undefined) ?? null };
}

/** The line of a quote that the next alternative would be taken instead of; null for an extra. */
export function lineAbove(stands: TypedRead['stands'], order: OrderView | null) {
  return stands === 'or' ? (order?.lines.findLast((line) => !line.alternative) ?? null) : null;
}

/** Why a unit does not go with an item; empty where it does. */
export function unitFault({ unit }: QuickLine, item: ItemFound): string {
  if (!unit || item.units.some((row) => row.code === unit.code)) return '';
  return `not sold by ${unitName(unit.code)}; by ${item.units.map((row) => row.name).join(', ')}`;
}

/** The line that a text asks for of an item, or what is missing or wrong. */
export function wishOf(
  read: TypedRead,
  item: ItemFound | null,
  order: OrderView | null,
): { readonly ok: true; readonly wish: LineWish } | { readonly ok: false; readonly fault: string } {
  const { quantity, quantities, unit, day, stands } = read;
  if (!item) return { ok: false, fault: `There is no item that matches “${read.item}”.` };
  if (item.discontinued && Number(item.available) <= 0) return { ok: false, fault: `${item.code} is discontinued, and none are left.` };
  if (quantity === null && quantities.length > 1)
    return { ok: false, fault: `How many: ${quantities.join(' or ')}? Type the item first, then the quantity without a point for thousands.` };
  if (quantity === null) return { ok: false, fault: 'How many? Type the quantity after the item.' };
  const wrong = unitFault(read, item);
  if (wrong) return { ok: false, fault: `${item.code} is ${wrong}.` };
  const alternative = stands ? { alternative: true, alternativeTo: lineAbove(stands, order)?.id ?? null } : {};
  return { ok: true, wish: { item: item.code, quantity, ...alternative, ...(unit ? { unit: unit.code } : {}), ...(day ? { requestedDay: day.day } : {}) } };
}
