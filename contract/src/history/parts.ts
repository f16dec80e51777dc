import type { ShipToId } from '@nockwright/core/ids';
import type { Quantity, UnitPrice } from '@nockwright/core/money';
import { shortDay, type IsoDay } from '@nockwright/core/calendar';
import { ROUTE_KINDS, ROUTE_WORDS } from '@nockwright/core/shortages';
import { unitName } from '@nockwright/core/units';
import { day, decimal, id, integer, list, note, nullable, object, oneOf, optional, text, type Of } from '../shape';

/** Facts that events of several kinds share, and their words. */

export const lineRef = { lineNo: integer(1), item: text() };
export const lineWords = ({ lineNo, item }: { readonly lineNo: number; readonly item: string }) => `line ${lineNo} (${item})`;

export const goods = list(object({ quantity: decimal<Quantity>(), item: text() }));
export const goodsWords = (rows: Of<typeof goods>) => rows.map(({ quantity, item }) => `${quantity} ${item}`).join(', ');

export const goodsInUnits = list(object({ quantity: decimal<Quantity>(), unit: text(), item: text() }));
export const unitsWords = (rows: Of<typeof goodsInUnits>) =>
  rows.map(({ quantity, unit, item }) => `${quantity} ${unitName(unit, quantity)} ${item}`).join(', ');

export const schedule = list(object({ day: day(), quantity: decimal<Quantity>() }));
export const scheduleWords = (rows: Of<typeof schedule>, today: IsoDay) =>
  rows.map(({ day: on, quantity }) => `${quantity} on ${shortDay(on, today)}`).join(', ');

export const made = list(object({ kind: oneOf('purchase', 'transfer', 'assembly'), number: text() }));
export const madeWords = (rows: Of<typeof made>) => rows.map(({ kind, number }) => `${kind} ${number}`).join(', ');

export const orderRef = object({ id: id(), number: nullable(text()), kind: oneOf('order', 'quote') });
export const orderWords = ({ id: draft, number, kind }: Of<typeof orderRef>) =>
  number === null ? `${kind === 'quote' ? 'quote draft' : 'draft'} ${draft}` : `${kind} ${number}`;

/** A way that was chosen for a quantity. */
export const routePart = object({
  kind: oneOf(...ROUTE_KINDS),
  quantity: decimal<Quantity>(),
  supplier: optional(text()),
  warehouse: optional(text()),
  item: optional(text()),
  more: optional(decimal<Quantity>()),
  shipTo: optional(id<ShipToId>()),
});
export function partWords({ kind, quantity, supplier, warehouse, item, more }: Of<typeof routePart>): string {
  const with_ = supplier ?? warehouse ?? item;
  return `${quantity} ${ROUTE_WORDS[kind]}${with_ === undefined ? '' : kind === 'substitute' ? ` ${with_}` : ` from ${with_}`}${more === undefined ? '' : `, ${more} more for stock`}`;
}

/** Where goods stand in a warehouse. */
export const place = { bin: nullable(note(60)), lot: nullable(note(60)), status: oneOf('available', 'quarantine') };
export const placeWords = ({ bin, lot, status }: { readonly bin: string | null; readonly lot: string | null; readonly status: string }) =>
  `${bin ? `, bin ${bin}` : ''}${lot ? `, lot ${lot}` : ''}${status === 'quarantine' ? ', in quarantine' : ''}`;

export const count = (number: number, one: string, many = `${one}s`) => `${number} ${number === 1 ? one : many}`;

export const dayChange = object({ day: day(), was: day() });
export const quantityChange = object({ open: decimal<Quantity>(), was: decimal() });

/** Another day, quantity or cost of what is awaited; null: it stays. */
export const lineChange = {
  due: nullable(dayChange),
  open: nullable(quantityChange),
  cost: nullable(object({ cost: decimal<UnitPrice>(), was: decimal() })),
};
type LineChange = Of<ReturnType<typeof object<typeof lineChange>>>;

/** `now expected Mon 15 Mar, was Tue 9 Mar, 40 still expected, was 60`. */
export function lineChangeWords({ due, open, cost }: LineChange, today: IsoDay): string {
  return [
    ...(due ? [`now expected ${shortDay(due.day, today)}, was ${shortDay(due.was, today)}`] : []),
    ...(open ? [`${open.open} still expected, was ${open.was}`] : []),
    ...(cost ? [`${cost.cost} each, was ${cost.was}`] : []),
  ].join(', ');
}
