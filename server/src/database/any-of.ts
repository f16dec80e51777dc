import { sql, type RawBuilder } from 'kysely';

/** `column = any(values)`: unlike `in (...)` it may be empty and is one statement whatever the number of values. */
export function anyOf(column: string, values: readonly string[] | readonly number[]): RawBuilder<boolean> {
  return sql<boolean>`${sql.ref(column)} = any(${values})`;
}
