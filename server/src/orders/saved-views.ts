import type { SavedView } from '@nockwright/contract/orders';
import type { Db } from '../database';
import type { CommandContext } from '../http/context';
import { invalid, notFound } from '../http/refusal';

const SCREEN = 'orders';
const MOST_VIEWS = 30;

/** The views somebody keeps of the list of orders, by name. */
export async function listViews(db: Db, user: number): Promise<SavedView[]> {
  return db.selectFrom('saved_view').select(['id', 'name', 'query']).where('user_id', '=', user).where('screen', '=', SCREEN).orderBy('name').execute();
}

export async function saveView({ trx, user }: CommandContext, name: string, query: string): Promise<SavedView[]> {
  const known = await listViews(trx, user.id);
  if (known.length >= MOST_VIEWS && !known.some((view) => view.name === name)) throw invalid('body.name', `you keep ${MOST_VIEWS} views: forget one first`);
  await trx
    .insertInto('saved_view')
    .values({ user_id: user.id, screen: SCREEN, name, query })
    .onConflict((conflict) => conflict.columns(['user_id', 'screen', 'name']).doUpdateSet({ query }))
    .execute();
  return listViews(trx, user.id);
}

export async function removeView({ trx, user }: CommandContext, view: number): Promise<SavedView[]> {
  const gone = await trx.deleteFrom('saved_view').where('id', '=', view).where('user_id', '=', user.id).returning('id').executeTakeFirst();
  if (!gone) throw notFound(`view ${view} of yours`);
  return listViews(trx, user.id);
}
