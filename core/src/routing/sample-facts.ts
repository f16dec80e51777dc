import { asWarehouse, buildBook, freeGoods, type BookRows } from '../book';
import { sampleLine, sampleRows, TUESDAY } from '../book/sample-rows';
import { POLICIES } from '../shortages';
import { SupplierOdds } from '../supply';
import { answered, type RoutedLine, type RoutingFacts } from './routing-facts';

const LANE = { from_warehouse: 'QUI', to_warehouse: 'MAR', transit_days: 1, cost_per_kg: '0.10' };

export function routedLine(id: number, more: Partial<RoutedLine> = {}): RoutedLine {
  return {
    ...sampleLine(id),
    price: '5',
    numerator: 1,
    version: 4,
    denominator: 1,
    ship_to_id: null,
    order_ship_to_id: 1,
    contract_id: null,
    description: 'Jar',
    step: '1',
    unit: 'each',
    assembly_days: null,
    replaceable: false,
    dropped: false,
    drops: false,
    kind: 'order',
    currency: 'EUR',
    customer_id: 1,
    customer: 'Wether Hill',
    confidence: null,
    route_policy: null,
    asks_when_late: false,
    ...more,
  };
}

/** Ten JAR each for some lines that have nothing at MAR; what the rows say lies elsewhere. */
export function facts(lines: readonly RoutedLine[], rows: Partial<BookRows>, more: Partial<RoutingFacts> = {}): RoutingFacts {
  const all = sampleRows({ lines: lines.map((line) => sampleLine(line.id)), ...rows });
  const live = buildBook(all, null, TUESDAY);
  const book = answered(live);
  const items = [...new Set(['JAR', ...live.book.items.map((item) => item.id)])];
  return {
    time: TUESDAY,
    lines: new Map(lines.map((line) => [line.id, line])),
    book,
    surely: new Map([[null, book]]),
    warehouses: new Map(all.warehouses.map((row) => [row.code, asWarehouse(row)])),
    free: freeGoods(
      live,
      items.flatMap((item) => ['MAR', 'QUI'].map((warehouse) => ({ item, warehouse }))),
    ),
    offers: new Map(),
    drafts: new Map(),
    lanes: [LANE],
    recipes: new Map(),
    substitutes: new Map(),
    items: new Map(items.map((item) => [item, { cost: '2', weight: '1', description: item, successor: null, step: '1' }])),
    sold: new Map(),
    odds: new SupplierOdds(new Map(), []),
    slipped: [],
    joined: new Set(),
    desk: { currency: 'EUR', confidence: null, policy: { name: 'on_time', weights: POLICIES } },
    ...more,
  };
}
