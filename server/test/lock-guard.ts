/** The one lock order of `server/src/locks/take-locks.ts`, by table: what comes first is locked first. */
const ORDER = [
  'sales_order',
  'customer',
  'contract_line',
  'purchase_order',
  'transfer_order',
  'assembly_order',
  'consignment',
  'shipment',
  'stock',
  'number_series',
];
const LOCKS = /\bfor (?:no key )?update\b/i;
const PASSES = /\bskip locked\b/i;

/**
 * Watches the statements of one connection, and tells of each that locks a table after one that comes behind it in the lock
 * order: two such transactions can wait for each other. What is not waited for cannot.
 */
export class LockGuard {
  private last: string | null = null;
  private readonly held = new Set<string>();

  constructor(private readonly tell: (fault: string) => void) {}

  see(statement: string, values: readonly unknown[] = []): void {
    if (/^(?:begin|start transaction|commit|rollback$)/i.test(statement)) {
      this.last = null;
      this.held.clear();
    }
    const table = lockedBy(statement);
    if (table === null) return;
    const rows = rowsOf(table, values);
    // What is held already is not waited for.
    if (rows.every((row) => this.held.has(row))) return;
    for (const row of rows) this.held.add(row);
    if (this.last !== null && ORDER.indexOf(table) < ORDER.indexOf(this.last))
      this.tell(`${table} is locked after ${this.last}: ${statement.replace(/\s+/g, ' ').slice(0, 120)} ${JSON.stringify(values)}`);
    else this.last = table;
  }
}

/** The rows that a lock names: by id, or by item and warehouse. */
function rowsOf(table: string, values: readonly unknown[]): string[] {
  const [first, second] = values;
  if (!Array.isArray(first)) return [`${table}/${String(first)}`];
  return first.map((value, at) => `${table}/${String(value)}${table === 'stock' && Array.isArray(second) ? `/${String(second[at])}` : ''}`);
}

/** The table of the lock order that a statement locks; null: none. */
function lockedBy(statement: string): string | null {
  if (/^\s*update number_series\b/i.test(statement)) return 'number_series';
  if (!LOCKS.test(statement) || PASSES.test(statement)) return null;
  const tables = [...statement.matchAll(/\bfrom "?(\w+)"?/gi)].map((found) => found[1]!).filter((table) => ORDER.includes(table));
  return tables.at(-1) ?? null;
}
