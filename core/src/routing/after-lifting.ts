import { compareDecimal, least, minus, plus, sum } from '../money';
import { decimal, lessOf, type BookDemand, type BookSupply, type OrderBook } from '../promise';
import type { Lifted } from '../shortages';
import type { RoutingFacts } from './routing-facts';
import { boundToLine } from './short-of';

/** What of a line is served otherwise than by what it waits for or was promised. */
export interface Lifting {
  readonly line: number;
  readonly lifted: Lifted;
}

/**
 * The book without what is lifted, and with what was bound for it free, or left where it is; null where nothing that is
 * promised is given back by it, so that nobody can gain.
 */
export function bookAfterLifting(facts: RoutingFacts, liftings: readonly Lifting[]): OrderBook | null {
  if (liftings.every(({ lifted }) => lifted.promises.length === 0)) return null;
  const { live } = facts.book;
  const freed = new Map<string, string>();
  const demands = new Map<string, BookDemand | null>();
  const rows = new Map(live.book.demand.map((row) => [row.id, row]));
  for (const { line, lifted } of liftings) {
    const row = rows.get(live.demandOfLine.get(line) ?? '');
    if (!row) continue;
    const bound = boundToLine(facts, facts.lines.get(line)!, sum(lifted.promises.map(({ cut }) => cut)));
    for (const [supply, quantity] of bound) freed.set(supply, quantity);
    demands.set(row.id, withoutLifted(row, lifted, sum([...bound.values()])));
  }
  return {
    ...live.book,
    demand: live.book.demand.flatMap((row) => (demands.has(row.id) ? (demands.get(row.id) ?? []) : [row])),
    supply: live.book.supply.flatMap((row) => (freed.has(row.id) ? givenUp(row, freed.get(row.id)!, live.supplies.get(row.id)?.kind) : [row])),
  };
}

/** A demand without what is lifted of it; null where nothing is left. `freed`: what was bound for the lifted. */
function withoutLifted(row: BookDemand, lifted: Lifted, freed: string): BookDemand | null {
  const cutOf = new Map(lifted.promises.map(({ day, cut }) => [day, cut]));
  // What suppliers ship to the customer is not in the book.
  const left = minus(decimal(row.quantity), plus(lifted.waiting, sum([...cutOf.values()])));
  if (compareDecimal(left, '0') <= 0) return null;
  let standing = freed;
  const promised = (row.promised ?? []).flatMap((entry) => {
    const cut = cutOf.get(entry.date) ?? '0';
    const rest = minus(decimal(entry.quantity), cut);
    const stood = least(standing, least(cut, decimal(entry.boundQuantity ?? entry.quantity)));
    standing = minus(standing, stood);
    return compareDecimal(rest, '0') > 0 ? [lessOf(entry, Number(rest), Number(stood))] : [];
  });
  return { ...row, quantity: Number(left), promised };
}

/** What is bound of a supply no more is anyone's; goods of a transfer or an assembly stay where they are. */
function givenUp(row: BookSupply, quantity: string, kind: string | undefined): BookSupply[] {
  const { for: _, ...free } = row;
  const rest = minus(decimal(row.quantity), quantity);
  const stays = kind === 'transfer' || kind === 'assembly';
  return [
    ...(compareDecimal(rest, '0') > 0 ? [{ ...row, quantity: Number(rest) }] : []),
    ...(stays ? [] : [{ ...free, id: `${row.id}/freed`, quantity: Number(quantity) }]),
  ];
}
