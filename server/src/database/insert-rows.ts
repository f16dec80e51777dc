import { sql, type Insertable } from 'kysely';
import type { Trx } from './connect';
import type { Database } from './tables';

/**
 * Inserts rows in the sequence they stand in, by one statement whose text is the same however many they are. All have the
 * columns of the first; `json`: those that hold JSON, given as text.
 */
export async function insertRows<T extends keyof Database>(
  trx: Trx,
  table: T,
  rows: readonly Insertable<Database[T]>[],
  json: readonly (keyof Insertable<Database[T]> & string)[] = [],
): Promise<void> {
  if (rows.length === 0) return;
  const names = Object.keys(rows[0]!);
  const isJson = new Set<string>(json);
  const plain = rows.map((row) =>
    Object.fromEntries(
      Object.entries(row).map(([name, value]) => [name, isJson.has(name) && typeof value === 'string' ? (JSON.parse(value) as unknown) : value]),
    ),
  );
  const columns = sql.join(names.map((name) => sql.ref(name)));
  await sql`insert into ${sql.table(table)} (${columns})
    select ${columns} from jsonb_populate_recordset(null::${sql.table(table)}, ${JSON.stringify(plain)}::jsonb)`.execute(trx);
}
