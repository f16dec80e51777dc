import { asksCustomer } from './asks-customer';
import { routeLabel } from './say-route';
import type { ItemCode, SupplierCode, WarehouseCode } from '../ids';
import { type Quantity, compareDecimal, divide, lineAmount, marginPercent, minus, sum } from '../money';
import { daysBetween, daysLate } from '../calendar';
import { POLICIES, scoreOf, type RoutePolicy } from './policy';
import { routeRemarks, type Obligation } from './remark';
import type { Route, RouteKind, RoutePart } from './route';
import type { Shortage } from './shortage';
import { eachSplit, shiftUnits, type Split } from './splits';
import { waysFor } from './ways';
import { moreForLessOrders } from './bought-ways';
import { type Way, type Given } from './way';

const BEST_SPLITS = 3;
/** How many of the best are made better before the best are taken. */
const SHIFTED_SPLITS = 6;
const COST_DECIMALS = 4;

/**
 * Every way to serve the shortage, and the best ways to share it out over two or three; what the policy prefers first,
 * what cannot be chosen last.
 */
export function routesFor(shortage: Shortage, policy: RoutePolicy = POLICIES.on_time): Route[] {
  const ways = waysFor(shortage);
  const single = [...ways, ...moreForLessOrders(shortage)].map((way) => [way.give(shortage.quantity)]);
  // What is cut is not served: it competes with other ways of serving less, not with those that serve all.
  const toBeat = (cuts: boolean) =>
    Math.max(...single.filter((split) => isPossible(split) && (cuts || !split.some(isCutPart))).map((split) => worth(shortage, split, policy)));
  const splits = bestSplits(shortage, ways, policy, { all: toBeat(false), some: toBeat(true) });
  return judged([...single, ...splits].map((split) => routeOf(shortage, split, policy)));
}

/** A way that was chosen for a quantity, by what tells it from the others. */
export interface ChosenPart {
  readonly kind: RouteKind;
  readonly quantity: Quantity;
  readonly supplier?: SupplierCode;
  readonly warehouse?: WarehouseCode;
  readonly item?: ItemCode;
  /** For stock besides, of a special order. */
  readonly more?: Quantity;
}

export type ChosenRoute =
  { readonly ok: true; readonly route: Route } | { readonly ok: false; readonly at: number; readonly field: 'kind' | 'quantity'; readonly why: string };

/**
 * The route that takes just these ways, in the sequence given; where one of them is not there, or cannot give so much,
 * which and why. `shortage.quantity` is what they come to in all.
 */
export function chosenRoute(shortage: Shortage, chosen: readonly ChosenPart[], policy: RoutePolicy = POLICIES.on_time): ChosenRoute {
  const ways = [...waysFor(shortage), ...moreForLessOrders(shortage)];
  const split: Given[] = [];
  for (const [at, part] of chosen.entries()) {
    const found = ways.map((way) => way.give(part.quantity)).find((given) => isWay(given.part, part));
    if (!found)
      return {
        ok: false,
        at,
        field: 'kind',
        why: whyNot(
          part,
          ways.map((way) => way.give(part.quantity).part),
        ),
      };
    // Waiting without a day is for the coordinator to choose, though no policy would.
    if (!found.possible && part.kind !== 'backorder')
      return { ok: false, at, field: 'quantity', why: routeRemarks([found.part], shortage.now.slice(0, 10)).join('; ') };
    split.push(found);
  }
  return { ok: true, route: routeOf(shortage, split, policy) };
}

function isWay(part: RoutePart, chosen: ChosenPart): boolean {
  return (
    part.kind === chosen.kind &&
    (part.supplier ?? undefined) === chosen.supplier &&
    (part.warehouse ?? undefined) === chosen.warehouse &&
    (part.item ?? undefined) === chosen.item &&
    compareDecimal(part.more, chosen.more ?? '0') === 0
  );
}

function whyNot({ kind, supplier, warehouse, item, more }: ChosenPart, parts: readonly RoutePart[]): string {
  if (more !== undefined) return `buying ${more} more no longer makes the whole purchase cheaper: look again`;
  const said = kind.replaceAll('_', ' ');
  const who = supplier ?? warehouse ?? item;
  const same = parts.filter((part) => part.kind === kind).map((part) => part.supplier ?? part.warehouse ?? part.item ?? said);
  return `there is no ${said}${who === undefined ? '' : ` with ${who}`} for this line; ${same.length > 0 ? `possible: ${same.join(', ')}` : 'nobody can do it'}`;
}

/** The best split of each set of ways that beats all that one way alone can do. */
function bestSplits(shortage: Shortage, ways: readonly Way[], policy: RoutePolicy, toBeat: { readonly all: number; readonly some: number }): Split[] {
  if (compareDecimal(shortage.quantity, '1') <= 0) return [];
  const best = new Map<string, { readonly split: Split; readonly score: number }>();
  eachSplit(ways, shortage.quantity, (split) => {
    if (!maySplit(shortage, split)) return;
    const score = worth(shortage, split, policy);
    const key = split.map(nameOf).sort().join('+');
    const known = best.get(key);
    if (!known || score > known.score + 1e-9) best.set(key, { split, score });
  });
  const scored = (split: Split) => ({ split, score: worth(shortage, split, policy), cuts: split.some(isCutPart) });
  const first = (a: ReturnType<typeof scored>, b: ReturnType<typeof scored>) => Number(a.cuts) - Number(b.cuts) || b.score - a.score;
  return [...best.values()]
    .map(({ split }) => scored(split))
    .sort(first)
    .slice(0, SHIFTED_SPLITS)
    .map(({ split }) => scored(shiftUnits(ways, split, (other) => worth(shortage, other, policy))))
    .filter(({ score, cuts }) => score > (cuts ? toBeat.some : toBeat.all) + 1e-9)
    .sort(first)
    .slice(0, BEST_SPLITS)
    .map(({ split }) => inOrder(split));
}

/** What leaves first stands first; what is cut stands last. */
function inOrder(split: Split): Split {
  const when = ({ part }: Given) => part.leaves[0]?.day ?? '9999';
  return [...split].sort((a, b) => (when(a) < when(b) ? -1 : when(a) > when(b) ? 1 : 0));
}

function nameOf({ part }: Given): string {
  return `${part.kind}/${part.supplier ?? part.warehouse ?? part.item ?? ''}`;
}

function isPossible(split: Split): boolean {
  return split.every((given) => given.possible);
}

/** An order that leaves complete cannot come partly from a supplier's house, which nobody waits in for the rest. */
function maySplit({ whole = false }: Shortage, split: Split): boolean {
  return !whole || split.every(({ part }) => part.kind !== 'drop_ship');
}

function worth(shortage: Shortage, split: Split, policy: RoutePolicy): number {
  return scoreOf(weighed(shortage, split), policy);
}

function weighed({ whole = false, requested }: Shortage, split: Split) {
  let [margin, lateValueDays, surplusCost, cutValue, value] = [0, 0, 0, 0, 0];
  const consignments = new Set<string>();
  let last = requested;
  for (const given of split) {
    const amount = Number(given.amount);
    margin += amount - Number(given.cost);
    value += amount;
    lateValueDays += given.lateValueDays;
    surplusCost += given.surplusCost;
    cutValue += given.cutValue;
    for (const consignment of given.consignments) consignments.add(consignment);
    if (given.part.shipDay !== null && given.part.shipDay > last) last = given.part.shipDay;
  }
  // What leaves complete leaves with the last of it.
  if (whole) return { margin, lateValueDays: value * daysBetween(requested, last), shipments: Math.min(1, consignments.size), surplusCost, cutValue };
  return { margin, lateValueDays, shipments: consignments.size, surplusCost, cutValue };
}

function routeOf(shortage: Shortage, split: Split, policy: RoutePolicy): Route {
  const parts = split.map((given) => given.part);
  const amount = sum(split.map((given) => given.amount));
  const cost = sum(split.map((given) => given.cost));
  const days = parts.filter((part) => part.kind !== 'cut').map((part) => part.shipDay);
  const known = days.length > 0 && days.every((day) => day !== null);
  const latest = (pick: (part: (typeof parts)[number]) => string | null) =>
    known ? parts.flatMap((part) => pick(part) ?? []).reduce((a, b) => (a > b ? a : b)) : null;
  const shipDay = latest((part) => part.shipDay);
  const weights = weighed(shortage, split);
  const value = Number(amount);
  const sold = sum(parts.filter((part) => part.kind !== 'cut').map((part) => part.quantity));
  return {
    parts,
    label: routeLabel(parts),
    quantity: shortage.quantity,
    shipDay,
    deliveryDay: latest((part) => part.deliveryDay),
    daysLate: shipDay === null ? null : daysLate(shortage.requested, shipDay),
    meanLate: shipDay === null || value === 0 ? null : Math.round((weights.lateValueDays / value) * 10) / 10,
    unitCost: compareDecimal(sold, '0') > 0 ? divide(cost, sold, COST_DECIMALS) : '0',
    marginAmount: lineAmount('1', minus(amount, cost), shortage.currency),
    marginPercent: marginPercent(amount, cost),
    shipments: weights.shipments,
    holds: Math.round(parts.reduce((share, part) => (share * part.holds) / 100, 1) * 100),
    obliges: distinct(parts.flatMap((part) => part.obliges)),
    possible: isPossible(split),
    score: scoreOf(weights, policy),
    beaten: false,
  };
}

function distinct(obligations: readonly Obligation[]): Obligation[] {
  return [...new Map(obligations.map((row) => [JSON.stringify(row), row])).values()];
}

function isCutPart({ part }: Given): boolean {
  return part.kind === 'cut';
}

/** Best first, what serves less behind what serves all, and marked where another is better in day, money or consignments and worse in none. */
function judged(routes: readonly Route[]): Route[] {
  const sorted = [...routes].sort((a, b) => Number(b.possible) - Number(a.possible) || Number(isCut(a)) - Number(isCut(b)) || b.score - a.score);
  const choosable = sorted.filter((route) => route.possible && route.shipDay !== null);
  return sorted.map((route) => ({ ...route, beaten: choosable.some((other) => other !== route && beats(other, route)) }));
}

function beats(one: Route, other: Route): boolean {
  // A cut has no day to be beaten on: it is another question.
  if (other.shipDay === null) return false;
  // Of what is shared out the first part leaves sooner than the last: the days of all of it count.
  const day = Math.sign(other.meanLate! - one.meanLate!) || (one.shipDay! < other.shipDay ? 1 : one.shipDay === other.shipDay ? 0 : -1);
  const money = compareDecimal(one.marginAmount, other.marginAmount);
  const consignments = other.shipments - one.shipments;
  // What is cut is not served: a way that serves all does not beat one on it, nor the other way round.
  if (isCut(one) !== isCut(other)) return false;
  const asks = Number(asksCustomer(other)) - Number(asksCustomer(one));
  const sides = [day, money, consignments, asks];
  return sides.every((side) => side >= 0) && sides.some((side) => side > 0);
}

function isCut({ parts }: Route): boolean {
  return parts.some((part) => part.kind === 'cut');
}
