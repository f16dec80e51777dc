import { spokenDay, type IsoDay } from '../calendar';
import { compareDecimal, divide, minus, priceInWords } from '../money';
import { asksCustomer } from './asks-customer';
import type { PolicyName } from './policy';
import type { Obligation } from './remark';
import type { Route, RoutePart } from './route';

type Labelled = Pick<RoutePart, 'kind' | 'label' | 'quantity'>;

/** What a route is called: `Transfer from Ostrey Quay`; of several parts each with its quantity, `transfer 1 from Ostrey Quay, cancel 2`. */
export function routeLabel(parts: readonly Labelled[]): string {
  const [only, ...others] = parts;
  if (only && others.length === 0) return only.label;
  const said = parts.map(partLabel).join(', ');
  return said.slice(0, 1).toUpperCase() + said.slice(1);
}

/** The quantity stands after the name of the way; another item says its own. */
function partLabel({ kind, label, quantity }: Labelled): string {
  if (kind === 'substitute') return label;
  if (kind === 'cut') return `cancel ${quantity}`;
  const head = HEADS[kind];
  return label.startsWith(head) ? `${head.toLowerCase()} ${quantity}${label.slice(head.length)}` : `${quantity} ${label}`;
}

const HEADS = { backorder: 'Backorder', special_order: 'Special order', drop_ship: 'Drop ship', transfer: 'Transfer', assemble: 'Assemble' } as const;

/** What is known of a route where it is said and compared. */
export type SaidRoute = Pick<Route, 'quantity' | 'deliveryDay'> & {
  readonly parts: readonly Pick<RoutePart, 'kind' | 'quantity' | 'label' | 'leaves' | 'unbought' | 'shipDay'>[];
};
export type ComparedRoute = Pick<Route, 'possible' | 'shipDay' | 'daysLate' | 'marginAmount' | 'shipments' | 'holds' | 'unitCost'> & {
  readonly obliges: readonly Pick<Obligation, 'kind'>[];
  /** In words. */
  readonly remarks: readonly string[];
};

/** What to say to the customer about a route, in one or two sentences. */
export function sayRoute({ parts, quantity, deliveryDay }: SaidRoute, today: IsoDay): string {
  const on = (day: IsoDay) => {
    const said = spokenDay(day, today);
    return said === 'today' || said === 'tomorrow' ? said : `on ${said}`;
  };
  const one = (many: string) => compareDecimal(many, '1') === 0;
  const all = one(quantity) ? 'It' : `All ${quantity}`;
  const clauses = parts.map(({ kind, quantity: part, label, leaves, unbought, shipDay }) => {
    const who = parts.length === 1 ? all : part;
    const leave = one(part) ? 'leaves' : 'leave';
    if (kind === 'cut')
      return parts.length === 1 ? `I take ${one(part) ? 'it' : `the ${part}`} off the order` : `${part} ${one(part) ? 'is' : 'are'} taken off the order`;
    if (unbought)
      return `${parts.length === 1 ? (one(part) ? 'It is' : `The ${part} are`) : `${part} ${one(part) ? 'is' : 'are'}`} on backorder: I call you when I have a day`;
    if (shipDay === null) return `for ${parts.length === 1 ? `the ${part}` : part} I have no day yet`;
    const days = leaves
      .map((leaving, n) => (leaves.length === 1 ? on(leaving.day) : `${n === 0 ? '' : 'and '}${leaving.quantity} ${on(leaving.day)}`))
      .join(', ');
    if (kind === 'substitute') return `I send ${label}, ${days}`;
    if (kind === 'drop_ship') return `${who} ${one(part) ? 'comes' : 'come'} straight from the maker and ${leave} ${days}`;
    return `${who} ${leave} ${days}`;
  });
  const said = clauses.join('; ');
  const arrives =
    deliveryDay === null || parts.some((part) => part.unbought)
      ? ''
      : ` ${parts.length === 1 && one(quantity) ? 'It' : 'They'} should be with you ${byDay(on(deliveryDay))}.`;
  return `${said.slice(0, 1).toUpperCase()}${said.slice(1)}.${arrives}`;
}

function byDay(day: string): string {
  return day.startsWith('on ') ? `by ${day.slice(3)}` : day;
}

/** Why one would take a route, or not: what it is first in among those that are possible, and what it costs, in two sentences. */
export function whyRoute(route: ComparedRoute, routes: readonly ComparedRoute[], policy: PolicyName): string {
  if (!route.possible) return `Not possible: ${route.remarks.join('; ')}.`;
  const whole = routes.filter((other) => other.possible && other.shipDay !== null);
  if (route.shipDay === null) return `Nothing leaves for it. ${firstUpper(route.remarks.join('; '))}.`;
  const others = whole.filter((other) => other !== route);
  const firsts = firstIn(route, others);
  const best = whole[0];
  const opening =
    firsts.length > 0 ? `${firstUpper(listed(firsts))}.` : best && best !== route ? `Option 1 ${behind(route, best, policy)}.` : 'The best by the ranking.';
  return `${opening} Costs ${priceInWords(divide(route.unitCost, '1', 2))} each landed.`;
}

/** What a route is better in than every other. */
function firstIn(route: ComparedRoute, others: readonly ComparedRoute[]): string[] {
  if (others.length === 0) return ['the only option with a day'];
  const every = (test: (other: ComparedRoute) => boolean) => others.every(test);
  const asks = asksCustomer(route);
  return [
    ...(every((other) => other.shipDay! > route.shipDay!) ? ['the earliest'] : []),
    ...(every((other) => compareDecimal(other.marginAmount, route.marginAmount) < 0) ? ['the most margin'] : []),
    ...(every((other) => other.shipments > route.shipments) ? ['the fewest shipments'] : []),
    ...(every((other) => other.holds < route.holds) ? ['the surest day'] : []),
    ...(!asks && every((other) => asksCustomer(other)) ? ['the only one that needs nobody’s consent'] : []),
    ...(!asks &&
    others.some((other) => asksCustomer(other)) &&
    others.filter((other) => !asksCustomer(other)).every((other) => other.shipDay! > route.shipDay!) &&
    !every((other) => other.shipDay! > route.shipDay!)
      ? ['the earliest that needs nobody’s consent']
      : []),
  ];
}

/** How the first option is better, in what it is ranked by first. */
function behind(route: ComparedRoute, best: ComparedRoute, policy: PolicyName): string {
  const days = (route.daysLate ?? 0) - (best.daysLate ?? 0);
  const money = minus(best.marginAmount, route.marginAmount);
  const consignments = route.shipments - best.shipments;
  const said = {
    on_time: days > 0 ? `leaves ${days} ${days === 1 ? 'day' : 'days'} earlier` : null,
    cheapest: compareDecimal(money, '0') > 0 ? `brings ${priceInWords(money)} more margin` : null,
    fewest_shipments: consignments > 0 ? `takes ${consignments} ${consignments === 1 ? 'shipment' : 'shipments'} fewer` : null,
  };
  return said[policy] ?? said.on_time ?? said.cheapest ?? said.fewest_shipments ?? 'is as good in day, margin and shipments';
}

function listed(words: readonly string[]): string {
  return words.length === 1 ? words[0]! : `${words.slice(0, -1).join(', ')} and ${words[words.length - 1]!}`;
}

function firstUpper(words: string): string {
  return words.slice(0, 1).toUpperCase() + words.slice(1);
}
