import type { PoolKey } from '@nockwright/core/book';
import { anyOf, type Trx } from '../database';
import { lockPools, poolName } from './lock-pools';

/** What an act will touch. Ids may stand several times, and null for none. */
export interface Touched {
  readonly orders?: readonly (number | null)[];
  /** Customers, for what they owe. */
  readonly customers?: readonly number[];
  readonly contractLines?: readonly (number | null)[];
  readonly purchases?: readonly number[];
  readonly transfers?: readonly number[];
  readonly assemblies?: readonly number[];
  readonly consignments?: readonly (number | null)[];
  readonly shipments?: readonly number[];
  readonly pools?: readonly PoolKey[];
}

/**
 * The one lock order. Every act takes what it needs in it, so that none waits for another in a circle. The whole comes
 * before its parts, and what all acts need comes last: pools, then number series, which `nextNumber` takes.
 */
const KINDS = ['orders', 'customers', 'contractLines', 'purchases', 'transfers', 'assemblies', 'consignments', 'shipments', 'pools'] as const;
export type LockKind = (typeof KINDS)[number];

const TABLES = {
  orders: 'sales_order',
  customers: 'customer',
  contractLines: 'contract_line',
  purchases: 'purchase_order',
  transfers: 'transfer_order',
  assemblies: 'assembly_order',
  consignments: 'consignment',
  shipments: 'shipment',
} as const;

/** What a transaction holds, and the kind it has locked last. */
export interface Held {
  readonly names: ReadonlySet<string>;
  readonly last: number;
}
const NOTHING: Held = { names: new Set(), last: -1 };
const held = new WeakMap<Trx, Held>();

export function heldBy(trx: Trx): Held {
  return held.get(trx) ?? NOTHING;
}

export function holdOnly(trx: Trx, what: Held): void {
  held.set(trx, what);
}

/**
 * Locks all that an act will touch: kind by kind in the one lock order, the rows of a kind sorted and by one statement. May
 * be called again for kinds that come later, once it is known what they are; throws where something new comes before what
 * is locked already. Rows are locked for no key update: keys never change, and a row that refers to them may be written
 * meanwhile.
 */
export async function takeLocks(trx: Trx, touched: Touched): Promise<void> {
  for (const kind of KINDS) {
    if (kind === 'pools') {
      const pools = [...new Map((touched.pools ?? []).map((pool) => [poolName(pool), pool])).values()];
      if (note(trx, kind, pools.map(poolName))) await lockPools(trx, pools);
      continue;
    }
    const ids = [...new Set((touched[kind] ?? []).filter((id) => id !== null))].sort((a, b) => a - b);
    if (note(trx, kind, ids)) await trx.selectFrom(TABLES[kind]).select('id').where(anyOf('id', ids)).orderBy('id').forNoKeyUpdate().execute();
  }
}

/** Notes a row that an act locks as it reads it. */
export function noteLock(trx: Trx, kind: LockKind, id: number): void {
  note(trx, kind, [id]);
}

/** Notes a row that the act itself has made: nobody else sees it, so that it is waited for by nobody. */
export function noteOwn(trx: Trx, kind: LockKind, id: number): void {
  const known = heldBy(trx);
  holdOnly(trx, { names: new Set([...known.names, `${kind}/${id}`]), last: known.last });
}

/** Whether something of it is not held yet. Throws where it comes before what is locked already. */
function note(trx: Trx, kind: LockKind, names: readonly (number | string)[]): boolean {
  const known = heldBy(trx);
  const missing = names.map((name) => `${kind}/${name}`).filter((name) => !known.names.has(name));
  if (missing.length === 0) return false;
  const rank = KINDS.indexOf(kind);
  if (rank < known.last) throw new Error(`${missing[0]} would be locked after ${KINDS[known.last]}: an act locks ${KINDS.join(', ')}, in this sequence`);
  holdOnly(trx, { names: new Set([...known.names, ...missing]), last: rank });
  return true;
}
