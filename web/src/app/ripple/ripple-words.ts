import type { Decision, Mover, RippleView } from '@nockwright/contract/promise';
import { daysBetween } from '@nockwright/core/calendar';
import { compareDecimal, roundMoney, sum } from '@nockwright/core/money';
import { amountInWords } from '../paper';

/** The decision to do what was seen, with the offers that were taken. */
export function decisionOf(ripple: RippleView, accept: readonly number[]): Decision {
  return { seen: [...ripple.later, ...ripple.earlier].map(({ line, after }) => ({ line, after })), accept };
}

/** What a form would do, as the server reckons it: whom it moves, or that with more beside it. */
export type Effect = RippleView | { readonly ripple: RippleView };

/** The lines whose promises are made later, as the board is asked for them; empty: nobody's. */
export function linesHurt(effect: Effect | null): string {
  return effect === null ? '' : [...new Set(rippleOf(effect).later.map((row) => row.line))].join(',');
}

export function movesNobody(effect: Effect): boolean {
  const { later, earlier } = rippleOf(effect);
  return later.length + earlier.length === 0;
}

function rippleOf(effect: Effect): RippleView {
  return 'ripple' in effect ? effect.ripple : effect;
}

/** One sentence for a whole ripple: how many are hurt, how far, how much it is worth; who gains. */
export function rippleInWords({ later, earlier }: RippleView, currency: string): string {
  const gain = earlier.length === 0 ? '' : ` ${count(earlier.length, 'promise moves', 'promises move')} earlier.`;
  if (later.length === 0) return `No promise moves later.${gain}`;
  const customers = new Set(later.map((row) => row.customer)).size;
  const waiting = later.filter((row) => row.to === null).length;
  const worst = Math.max(0, ...later.map((row) => row.days ?? 0));
  const value = roundMoney(sum(later.map((row) => row.value)), currency);
  const reach = [
    ...(worst > 0 ? [`the worst by ${count(worst, 'day', 'days')}`] : []),
    ...(waiting > 0 ? [`${waiting} without supply`] : []),
    ...(compareDecimal(value, '0') > 0 ? [`worth ${amountInWords(value)} ${currency}`] : []),
  ];
  return `${count(later.length, 'promise', 'promises')} to ${count(customers, 'customer', 'customers')} ${later.length === 1 ? 'moves' : 'move'} later: ${reach.join(', ')}.${gain}`;
}

type Move = Pick<Mover, 'from' | 'to'>;

/** How far a part of a promise moves. */
export function moveInWords({ from, to }: Move): string {
  if (to === null) return 'no supply';
  if (from === null) return 'new day';
  const days = daysBetween(from, to);
  return `${count(Math.abs(days), 'day', 'days')} ${days > 0 ? 'later' : 'earlier'}`;
}

/** `open`: loses its supply; `late`: moves later; `good`: moves earlier. */
export function toneOf({ from, to }: Move): 'open' | 'late' | 'good' {
  if (to === null) return 'open';
  return from !== null && from < to ? 'late' : 'good';
}

/** Whether a line gains by its move. */
export function isGain(row: Mover): boolean {
  return row.days === null ? row.from === null : row.days < 0;
}

function count(number: number, one: string, many: string): string {
  return `${number} ${number === 1 ? one : many}`;
}
