import type { ItemCode } from '../ids';
import { type Quantity, compareDecimal, least, minus, plus, sum, type Decimal } from '../money';
import { spokenDay, type IsoDay } from '../calendar';
import { decimal } from './decimal';
import { moved, type Moved } from './ripple';

/** So many on a day, as a customer was told. */
export interface ToldPart {
  readonly day: IsoDay;
  readonly quantity: Quantity;
}

/** How days are said in a sentence, seen from today. */
export type NameDay = (day: IsoDay, today: IsoDay) => string;

/** How parts of a line differ from what was told; what is missing of that, beyond `givenUp`, waits. Null where they are the same. */
export function movedParts(told: readonly ToldPart[], holds: readonly ToldPart[], givenUp: Decimal = '0'): Moved | null {
  const knows = withoutLast(told, givenUp);
  const [had, has] = [total(knows), total(holds)];
  return moved(asPlan(knows, above(minus(has, had))), asPlan(holds, above(minus(had, has))));
}

/**
 * What to say to a customer whose promise is no longer what they were told last: a sentence for each quantity that leaves on
 * another day or has lost its goods, and what stays of the rest. Empty where nothing changes. `givenUp`: what they agreed not to get.
 */
export function sayChange(
  told: readonly ToldPart[],
  holds: readonly ToldPart[],
  item: ItemCode,
  today: IsoDay,
  { givenUp = '0', name = spokenDay }: { readonly givenUp?: Decimal; readonly name?: NameDay } = {},
): string {
  const row = movedParts(told, holds, givenUp);
  if (!row) return '';
  const on = (day: string) => {
    const said = name(day, today);
    return said === 'today' || said === 'tomorrow' ? said : `on ${said}`;
  };
  const sentences = row.moves.map(({ quantity, from, to }) => {
    const goods = `The ${decimal(quantity)} ${item}`;
    if (from === null) return `${goods} you are waiting for can leave ${on(to!)}.`;
    const promised = `${goods} we promised for ${name(from, today)}`;
    if (to === null) return `${promised} ${quantity === 1 ? 'has lost its' : 'have lost their'} supply; I am looking for another way and will call you back.`;
    return to < from ? `${promised} can leave ${on(to)} already.` : `${promised} will leave ${on(to)} instead.`;
  });
  const stays = commonParts(withoutLast(told, givenUp), holds);
  if (stays.length > 0)
    sentences.push(
      `The other ${stays.map(({ day, quantity }) => `${quantity} ${quantity === '1' ? 'leaves' : 'leave'} ${on(day)}`).join(' and ')}, as promised.`,
    );
  return sentences.join(' ');
}

/** What a change of some parts makes of all that was told of a line: `before` goes, `after` comes. */
export function withChanged(all: readonly ToldPart[], before: readonly ToldPart[], after: readonly ToldPart[]): ToldPart[] {
  const byDay = new Map<IsoDay, Decimal>();
  for (const { day, quantity } of all) byDay.set(day, plus(byDay.get(day) ?? '0', quantity));
  for (const { day, quantity } of before) byDay.set(day, minus(byDay.get(day) ?? '0', quantity));
  for (const { day, quantity } of after) byDay.set(day, plus(byDay.get(day) ?? '0', quantity));
  return [...byDay]
    .map(([day, quantity]) => ({ day, quantity }))
    .filter((part) => compareDecimal(part.quantity, '0') > 0)
    .sort((a, b) => (a.day < b.day ? -1 : a.day > b.day ? 1 : 0));
}

/** Parts without so many of what would have come last. */
export function withoutLast(parts: readonly ToldPart[], quantity: Quantity): ToldPart[] {
  let left = quantity;
  return [...parts]
    .reverse()
    .flatMap((part) => {
      const off = least(left, part.quantity);
      left = minus(left, off);
      const rest = minus(part.quantity, off);
      return compareDecimal(rest, '0') > 0 ? [{ day: part.day, quantity: rest }] : [];
    })
    .reverse();
}

/** What leaves on the same day in both. */
function commonParts(told: readonly ToldPart[], holds: readonly ToldPart[]): ToldPart[] {
  return told.flatMap(({ day, quantity }) => {
    const same = least(quantity, total(holds.filter((part) => part.day === day)));
    return compareDecimal(same, '0') > 0 ? [{ day, quantity: same }] : [];
  });
}

/** Parts as plans are compared. */
function asPlan(parts: readonly ToldPart[], uncovered: Quantity): Parameters<typeof moved>[1] {
  return { id: '', schedule: parts.map(({ day, quantity }) => ({ date: day, quantity: Number(quantity) })), uncovered: Number(uncovered) } as Parameters<
    typeof moved
  >[1];
}

function total(parts: readonly ToldPart[]): Decimal {
  return sum(parts.map((part) => part.quantity));
}

function above(quantity: Quantity): Decimal {
  return compareDecimal(quantity, '0') > 0 ? quantity : '0';
}
