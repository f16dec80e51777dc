import type { Gathered, PlannedRoute, RoutePlan } from '@nockwright/contract/shortages';
import { compareDecimal, lineAmount, minus, plus, sum, times } from '@nockwright/core/money';
import { asksCustomer, routesFor, type PolicyName, type Route } from '@nockwright/core/shortages';
import type { Now } from '../clock';
import type { Db } from '../database';
import type { QueryContext, Services } from '../http/context';
import { bookReading, readBeside } from '../http/whole-book';
import { viewRipple } from '../promise';
import { planOfLifting, type Lifting } from './lifting';
import { routeView } from './route-view';
import { RoutingDesk, type RoutedLine } from './routing-desk';

export interface WantedPlan {
  readonly lines: readonly number[];
  readonly policy?: PolicyName;
  readonly accept: readonly number[];
}

const planReading = bookReading('planOfRoutes', (db, now, { lines, ...how }: WantedPlan) => planRoutes(db, now, lines, how));
export const planOfRoutesTask = planReading.task;

/** The ways of so many lines are looked at in the thread that answers; each takes about a millisecond of it. */
const MOST_LINES_HERE = 20;

/** The plan for some lines; that for many is computed beside the thread that answers. */
export function readPlan(services: Services, context: QueryContext, wanted: WantedPlan): Promise<RoutePlan> {
  return wanted.lines.length <= MOST_LINES_HERE ? planReading.read(context.db, context.now, wanted) : readBeside(services, context, planOfRoutesTask, wanted);
}

const NOBODY = { later: [], earlier: [], offers: [] };

/**
 * The best way for each of many lines, in the sequence of their orders: each chooses from what those before it leave, and
 * purchases of one supplier for one warehouse are one. With what that makes and what it frees for others.
 */
export async function planRoutes(
  db: Db,
  now: Now,
  lineIds: readonly number[],
  { policy: wanted, accept = [] }: { readonly policy?: PolicyName; readonly accept?: readonly number[] },
): Promise<RoutePlan> {
  const desk = await RoutingDesk.load(db, now, lineIds);
  const rows: PlannedRoute[] = [];
  const gathering = new Gathering(desk);
  const liftings: Lifting[] = [];
  let asks = 0;
  for (const line of desk.lines.values()) {
    const { waiting, astray, short } = desk.shortOf(line);
    // What waits or goes astray comes first; what was told for a later day is looked at where there is none.
    const pressing = plus(waiting, astray);
    const quantity = compareDecimal(pressing, '0') > 0 ? pressing : short;
    if (compareDecimal(quantity, '0') <= 0) continue;
    const route = best(routesFor(desk.shortageOf(line, quantity), desk.policyOf(line, wanted).policy));
    const of = (waits: boolean) => sum((route?.parts ?? []).filter((part) => (part.kind === 'backorder') === waits).map((part) => part.quantity));
    const result = desk.lift(line, of(false), of(true));
    rows.push({
      line: line.id,
      order: line.order_id,
      number: line.number ?? '',
      lineNo: line.line_no,
      customer: line.customer,
      item: line.item,
      unit: line.unit,
      quantity,
      route: route && routeView(route),
      takesBack: result.ok ? desk.takesBack(line, result.lifted) : [],
    });
    if (!route) continue;
    if (asksCustomer(route)) {
      asks++;
      continue;
    }
    gathering.add(line, route);
    desk.take(line, route);
    if (result.ok) liftings.push({ line: line.id, lifted: result.lifted });
  }
  const after = planOfLifting(desk, liftings);
  return {
    rows,
    gathered: gathering.rows(),
    asks,
    without: rows.filter((row) => row.route === null).length,
    ripple: after ? await viewRipple(db, { live: desk.book.live, after }, accept, now.today) : NOBODY,
  };
}

/**
 * What is done where nobody chooses: nothing is cut unasked, nothing left to a purchase that nobody makes, and what needs
 * no question comes before what does.
 */
function best(routes: readonly Route[]): Route | null {
  const possible = routes.filter((route) => route.possible && route.parts.every((part) => part.kind !== 'cut' && !part.unbought));
  return possible.find((route) => !asksCustomer(route)) ?? possible[0] ?? null;
}

/** Purchases, transfers and assemblies that a plan makes, each counted once. */
class Gathering {
  private readonly found = new Map<
    string,
    { kind: Gathered['kind']; from: string; to: string; joins: string | null; lines: number; value: string; key: string; items: Set<string> }
  >();

  constructor(private readonly desk: RoutingDesk) {}

  add(line: RoutedLine, { parts }: Route): void {
    for (const part of parts) {
      const to = this.desk.warehouseName(line.warehouse);
      if (part.kind === 'special_order') {
        const key = `${part.supplier}/${line.warehouse}`;
        this.count(`purchase/${key}`, {
          kind: 'purchase',
          from: this.supplierName(line, part.supplier!),
          to,
          key,
          item: line.item,
          value: times(part.buys, part.unitCost),
        });
      }
      if (part.kind === 'drop_ship') {
        const where = `${line.customer}, order ${line.number ?? ''}`;
        this.count(`drop/${part.supplier}/${line.order_id}/${line.ship_to_id}`, {
          kind: 'drop_ship',
          from: this.supplierName(line, part.supplier!),
          to: where,
          key: '',
          item: line.item,
          value: times(part.quantity, part.unitCost),
        });
      }
      if (part.kind === 'transfer')
        this.count(`transfer/${part.warehouse}/${line.warehouse}`, {
          kind: 'transfer',
          from: this.desk.warehouseName(part.warehouse!),
          to,
          key: '',
          item: line.item,
          value: times(part.quantity, part.unitCost),
        });
      if (part.kind === 'assemble')
        this.count(`assembly/${line.id}`, { kind: 'assembly', from: line.item, to, key: '', item: line.item, value: times(part.quantity, part.unitCost) });
    }
  }

  rows(): Gathered[] {
    return [...this.found.values()].map(({ kind, from, to, joins, lines, value, key, items }) => ({
      kind,
      from,
      to,
      joins,
      lines,
      value: lineAmount('1', value, 'EUR'),
      remarks: kind === 'purchase' ? this.remarks(key, items) : [],
    }));
  }

  private count(name: string, row: { kind: Gathered['kind']; from: string; to: string; key: string; item: string; value: string }) {
    const known = this.found.get(name);
    if (known) {
      known.lines++;
      known.value = plus(known.value, row.value);
      known.items.add(row.item);
      return;
    }
    const [supplier, warehouse] = row.key.split('/') as [string, string];
    const draft = row.key === '' ? undefined : this.desk.draftOf(supplier, warehouse);
    // A draft without a number is one that this plan would make.
    this.found.set(name, {
      kind: row.kind,
      from: row.from,
      to: row.to,
      key: row.key,
      joins: draft?.number || null,
      lines: 1,
      value: row.value,
      items: new Set([row.item]),
    });
  }

  /** What the whole of it obliges to, looked at when all have joined. */
  private remarks(key: string, items: ReadonlySet<string>): string[] {
    const [supplier, warehouse] = key.split('/') as [string, string];
    const draft = this.desk.draftOf(supplier, warehouse);
    if (!draft) return [];
    const surplus = [...items].flatMap((item) => {
      const { needed, bought } = draft.items.get(item) ?? { needed: '0', bought: '0' };
      return compareDecimal(bought, needed) > 0 ? [`${minus(bought, needed)} ${item} more than needed go to stock`] : [];
    });
    const offer = [...this.desk.lines.values()].flatMap((line) => this.desk.offersOf(line)).find((row) => row.supplier === supplier);
    const least = offer?.minimumValue ?? '0';
    const below = compareDecimal(draft.value, least) < 0 ? [`below the ${least} the supplier wants of an order`] : [];
    return [...surplus, ...below];
  }

  private supplierName(line: RoutedLine, code: string): string {
    return this.desk.offersOf(line).find((offer) => offer.supplier === code)?.name ?? code;
  }
}
