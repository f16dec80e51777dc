import type { ItemCode } from '../ids';
import { type Amount, compareDecimal, minus, plus, times } from '../money';
import type { Route } from '../shortages';
import type { RoutedLine, RoutingFacts, WaysLeft } from './routing-facts';

/** A document that a plan makes or joins. */
export interface Gathered {
  readonly kind: 'purchase' | 'drop_ship' | 'transfer' | 'assembly';
  readonly from: string;
  readonly to: string;
  /** The draft it joins; null where it is new. */
  readonly joins: string | null;
  readonly lines: number;
  readonly value: Amount;
  readonly remarks: readonly string[];
}

/** Purchases, transfers and assemblies that a plan makes, each counted once. */
export class Gathering {
  private readonly found = new Map<
    string,
    { kind: Gathered['kind']; from: string; to: string; joins: string | null; lines: number; value: string; key: string; items: Set<string> }
  >();

  constructor(
    private readonly facts: RoutingFacts,
    private readonly ways: WaysLeft,
  ) {}

  add(line: RoutedLine, { parts }: Route): void {
    for (const part of parts) {
      const to = this.warehouseName(line.warehouse);
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
          from: this.warehouseName(part.warehouse!),
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
      value,
      remarks: kind === 'purchase' ? this.remarks(key, items) : [],
    }));
  }

  private count(name: string, row: { kind: Gathered['kind']; from: string; to: string; key: string; item: ItemCode; value: string }) {
    const known = this.found.get(name);
    if (known) {
      known.lines++;
      known.value = plus(known.value, row.value);
      known.items.add(row.item);
      return;
    }
    const [supplier, warehouse] = row.key.split('/') as [string, string];
    const draft = row.key === '' ? undefined : this.ways.drafts.get(`${supplier}/${warehouse}`);
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
    const draft = this.ways.drafts.get(`${supplier}/${warehouse}`);
    if (!draft) return [];
    const surplus = [...items].flatMap((item) => {
      const { needed, bought } = draft.items.get(item) ?? { needed: '0', bought: '0' };
      return compareDecimal(bought, needed) > 0 ? [`${minus(bought, needed)} ${item} more than needed go to stock`] : [];
    });
    const offer = [...this.facts.offers.values()].flat().find((row) => row.supplier === supplier);
    const least = offer?.minimumValue ?? '0';
    const below = compareDecimal(draft.value, least) < 0 ? [`below the ${least} the supplier wants of an order`] : [];
    return [...surplus, ...below];
  }

  private supplierName(line: RoutedLine, code: string): string {
    return this.facts.offers.get(line.item)?.find((offer) => offer.supplier === code)?.name ?? code;
  }

  private warehouseName(code: string): string {
    return this.facts.warehouses.get(code)?.name ?? code;
  }
}
