import { sql } from 'kysely';
import { PLAN_FREELY, PLAN_ONCE, type Db } from './connect';

const keeping = new WeakSet<Db>();

/**
 * Does `work` with plans that hang on no parameter: of statements that take longer to plan than to run, the one made
 * first is kept. Only within a transaction, where nobody else's statements are meant by it.
 */
export async function keepPlans<T>(db: Db, work: () => Promise<T>): Promise<T> {
  if (!db.isTransaction || keeping.has(db)) return work();
  keeping.add(db);
  try {
    await sql.raw(PLAN_ONCE).execute(db);
    const result = await work();
    await sql.raw(PLAN_FREELY).execute(db);
    return result;
  } finally {
    keeping.delete(db);
  }
}
