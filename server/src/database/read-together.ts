import { CompiledQuery } from 'kysely';
import { columnsOf, type Column } from './columns';
import type { Db } from './connect';

type Rows<Q> = Q extends CompiledQuery<infer R> ? R[] : never;
/**
 * Reads several things at once: the rows of each query, as it would give them by itself, in one statement. A query that is
 * new to the process is sent by itself, to learn its columns.
 */
export async function readTogether<Q extends Readonly<Record<string, CompiledQuery>>>(db: Db, queries: Q): Promise<{ readonly [K in keyof Q]: Rows<Q[K]> }> {
  const results: Record<string, unknown[]> = {};
  const together: Part[] = [];
  for (const [name, query] of Object.entries(queries)) {
    const columns = columnsOf(query.sql);
    if (columns) together.push({ name, query, columns });
    else results[name] = (await db.executeQuery(query)).rows;
  }
  if (together.length > 0) {
    const { rows } = await db.executeQuery<Record<string, (string | null)[][]>>(combine(together));
    for (const { name, columns } of together) results[name] = rows[0]![name]!.map((values) => toRow(values, columns));
  }
  return results as { readonly [K in keyof Q]: Rows<Q[K]> };
}

interface Part {
  readonly name: string;
  readonly query: CompiledQuery;
  readonly columns: readonly Column[];
}

/** One statement of several: of each a list of its rows, each a list of its values as text. */
function combine(parts: readonly Part[]): CompiledQuery {
  const parameters: unknown[] = [];
  const lists = parts.map(({ name, query, columns }) => {
    const text = renumber(query.sql, parameters.length);
    parameters.push(...query.parameters);
    const values = columns.map((column) => `part."${column.name}"::text`);
    return `(select coalesce(json_agg(array[${values.join(', ')}]), '[]') from (${text}) part) as "${name}"`;
  });
  return CompiledQuery.raw(`select ${lists.join(', ')}`, parameters);
}

/** A statement whose parameters begin later; texts in it are left alone. */
function renumber(text: string, first: number): string {
  return first === 0
    ? text
    : text.replace(/'(?:[^']|'')*'|\$(\d+)/g, (found, number?: string) => (number === undefined ? found : `$${Number(number) + first}`));
}

function toRow(values: readonly (string | null)[], columns: readonly Column[]): object {
  return Object.fromEntries(columns.map(({ name, read }, at) => [name, values[at] === null ? null : read(values[at]!)]));
}
