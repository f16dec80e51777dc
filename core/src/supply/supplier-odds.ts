import type { SupplierCode } from '../ids';
import { ArrivalOdds } from './arrival-odds';

/** Calendar days late, and how many receipts came so late. */
export type LateCount = readonly [late: number, receipts: number];

/** Every supplier's odds, each from its own record and that of all. Suppliers without a record share the others'. */
export class SupplierOdds {
  private readonly known = new Map<string, ArrivalOdds>();

  /** `records`: days late of each receipt by supplier, ascending; `all`: of all suppliers, ascending. */
  constructor(
    private readonly records: ReadonlyMap<string, readonly number[]>,
    private readonly all: readonly number[],
  ) {}

  of(supplier: SupplierCode): ArrivalOdds {
    let odds = this.known.get(supplier);
    if (!odds) this.known.set(supplier, (odds = new ArrivalOdds(this.records.get(supplier) ?? [], this.all)));
    return odds;
  }

  /** The record of some suppliers and of all, as counts: small enough to be sent. */
  counts(suppliers: readonly string[]): {
    readonly suppliers: readonly { readonly supplier: SupplierCode; readonly late: LateCount[] }[];
    readonly all: LateCount[];
  } {
    return { suppliers: suppliers.map((supplier) => ({ supplier, late: countsOf(this.records.get(supplier) ?? []) })), all: countsOf(this.all) };
  }

  static fromCounts({ suppliers, all }: ReturnType<SupplierOdds['counts']>): SupplierOdds {
    return new SupplierOdds(new Map(suppliers.map(({ supplier, late }) => [supplier, valuesOf(late)])), valuesOf(all));
  }
}

function countsOf(ascending: readonly number[]): LateCount[] {
  const counts = new Map<number, number>();
  for (const late of ascending) counts.set(late, (counts.get(late) ?? 0) + 1);
  return [...counts];
}

function valuesOf(counts: readonly LateCount[]): number[] {
  return counts.flatMap(([late, receipts]) => Array<number>(receipts).fill(late));
}
