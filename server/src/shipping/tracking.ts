import { sql } from 'kysely';
import { CarrierClient, CarrierFault, type TrackingNews } from '../carriers';
import type { Db, Trx } from '../database';
import { recordEvents } from '../events';
import type { CommandContext, Services } from '../http/context';
import { touchConsignment } from './lock-consignment';

const NOBODY = { id: 0, login: '', name: 'Nockwright', role: 'coordinator' } as const;
const heard = (carrier: string) => `carrier_news/${carrier}`;
/** Of several server processes one asks. */
const LOCK = 7_204_119;

/** Asks every carrier what has become of parcels, and keeps it. A carrier that is away is asked again the next time. */
export async function hearNews(services: Pick<Services, 'db' | 'clock' | 'jobs' | 'publicUrl'>): Promise<void> {
  const { db } = services;
  const carriers = await db.selectFrom('carrier').select(['code', 'url']).where('url', '<>', '').execute();
  for (const { code, url } of carriers) {
    const row = await db.selectFrom('desk_setting').select('value').where('name', '=', heard(code)).executeTakeFirst();
    const after = typeof row?.value === 'string' ? row.value : '';
    const answer = await new CarrierClient(url).news(after).catch((error: unknown) => {
      if (error instanceof CarrierFault) return null;
      throw error;
    });
    if (answer && answer.news.length > 0) await keepNews(services, code, after, answer);
  }
}

async function keepNews(
  { db, clock, jobs, publicUrl }: Pick<Services, 'db' | 'clock' | 'jobs' | 'publicUrl'>,
  carrier: string,
  after: string,
  { news, last }: { readonly news: readonly TrackingNews[]; readonly last: string },
): Promise<void> {
  await db.transaction().execute(async (trx) => {
    const { rows } = await sql<{ mine: boolean }>`select pg_try_advisory_xact_lock(${LOCK}) as mine`.execute(trx);
    if (!rows[0]!.mine) return;
    const known = await trx.selectFrom('desk_setting').select('value').where('name', '=', heard(carrier)).executeTakeFirst();
    if ((typeof known?.value === 'string' ? known.value : '') !== after) return;
    const now = clock();
    const told = await storeNews(trx, news);
    await trx
      .insertInto('desk_setting')
      .values({ name: heard(carrier), value: JSON.stringify(last) })
      .onConflict((conflict) => conflict.column('name').doUpdateSet({ value: JSON.stringify(last) }))
      .execute();
    if (told.length === 0) return;
    await touchConsignment(trx, ...new Set(told.map((row) => row.consignment)));
    const context: CommandContext = { trx, now, jobs, publicUrl, user: NOBODY, afterCommit: () => undefined };
    await recordEvents(
      context,
      told.map((row) => ({
        kind: 'shipment.tracked' as const,
        facts: { number: row.number, tracked: row.kind, place: row.place, words: row.words },
        subjects: [
          { kind: 'order' as const, key: row.order_id },
          { kind: 'shipment' as const, key: row.shipment },
        ],
      })),
    );
  });
}

interface Told {
  readonly consignment: number;
  readonly shipment: number;
  readonly order_id: number;
  readonly number: string;
  readonly kind: TrackingNews['kind'];
  readonly place: string;
  readonly words: string;
}

/** Keeps what is new; the same news heard twice is kept once. Gives it for each shipment it is about. */
async function storeNews(trx: Trx, news: readonly TrackingNews[]): Promise<readonly Told[]> {
  const { rows } = await sql<Told>`
    with told as (
      insert into tracking_event (label_id, their_id, at, kind, place, words)
      select b.id, k.id, k.at, k.kind, k.place, k.words
      from unnest(${news.map((row) => row.id)}::text[], ${news.map((row) => row.label)}::text[], ${news.map((row) => row.at)}::timestamptz[],
        ${news.map((row) => row.kind)}::text[], ${news.map((row) => row.place)}::text[], ${news.map((row) => row.words)}::text[]) with ordinality as k(id, label, at, kind, place, words, n)
      join consignment_label b on b.their_id = k.label
      order by k.n
      on conflict (label_id, their_id) do nothing returning label_id, kind, place, words)
    select b.consignment_id as consignment, s.id as shipment, s.order_id, s.number, t.kind, t.place, t.words
    from told t join consignment_label b on b.id = t.label_id join shipment s on s.consignment_id = b.consignment_id and s.state <> 'cancelled'`.execute(trx);
  return rows;
}

/** Writes where the services of carriers answer: `HARROW=http://…,TARN=http://…`. Others have none. */
export async function setCarrierUrls(db: Db, urls: string): Promise<void> {
  const pairs = urls.split(',').flatMap((pair) => {
    const at = pair.indexOf('=');
    return at > 0 ? [[pair.slice(0, at), pair.slice(at + 1)] as const] : [];
  });
  for (const [code, url] of pairs) await db.updateTable('carrier').set({ url }).where('code', '=', code).execute();
}
