import type { Db } from '../database';
import { invalid } from '../http/refusal';

/** Refuses a warehouse there is not and a requested day that has passed. `place`: where they stand in the request. */
export async function checkPlace(
  db: Db,
  place: 'body' | 'query',
  wish: { readonly warehouse?: string; readonly requestedDay?: string | null },
  today: string,
): Promise<void> {
  if (wish.warehouse !== undefined) {
    const codes = (await db.selectFrom('warehouse').select('code').orderBy('code').execute()).map((row) => row.code);
    if (!codes.includes(wish.warehouse)) throw invalid(`${place}.warehouse`, `there is no warehouse ${wish.warehouse}; there are ${codes.join(', ')}`);
  }
  if (wish.requestedDay && wish.requestedDay < today) throw invalid(`${place}.requestedDay`, `${wish.requestedDay} has passed; expected ${today} or later`);
}
