import { sql } from 'kysely';
import type { Db } from '../database';

/** How long failures count. */
const WINDOW_MINUTES = 15;
const LONGEST_SECONDS = 300;

/** Seconds to wait after so many failures, of which some are free: 1, then twice as long each time. */
export function delayAfter(failures: number, free: number, longest = LONGEST_SECONDS): number {
  return failures < free ? 0 : Math.min(longest, 2 ** Math.min(failures - free, 20));
}

/**
 * Who tries to log in: from a browser that the user has logged in from before (`device`), or from anywhere. Behind a proxy many
 * share an address, and anybody knows a name: what strangers do wrong slows strangers, never a browser that is known.
 */
export interface Trier {
  readonly login: string;
  readonly address: string;
  readonly device: string | null;
}

const FREE_OF_ONE = 5;
const FREE_OF_ALL = 20;
/** A name that is tried from everywhere stays open to its owner on a new browser: they wait a little, not for the attack to end. */
const LONGEST_OF_A_NAME = 30;

/** Seconds until this one may try again; 0 where they may. */
export async function secondsToWait(db: Db, trier: Trier, at: Date): Promise<number> {
  const own = placeOf(trier);
  const since = new Date(at.getTime() - WINDOW_MINUTES * 60_000);
  const { rows } = await sql<{ own: number; own_last: Date | null; place: number; place_last: Date | null; name: number; name_last: Date | null }>`
    select count(*) filter (where login = ${trier.login} and address = ${own})::int as own, max(at) filter (where login = ${trier.login} and address = ${own}) as own_last,
      count(*) filter (where address = ${own})::int as place, max(at) filter (where address = ${own}) as place_last,
      count(*) filter (where login = ${trier.login} and address not like 'device %')::int as name,
      max(at) filter (where login = ${trier.login} and address not like 'device %') as name_last
    from failed_log_in where at > ${since} and (login = ${trier.login} or address = ${own})`.execute(db);
  const found = rows[0]!;
  const left = (last: Date | null, delay: number) => (last === null ? 0 : Math.ceil((last.getTime() + delay * 1000 - at.getTime()) / 1000));
  const waits = [left(found.own_last, delayAfter(found.own, FREE_OF_ONE))];
  if (trier.device === null)
    waits.push(left(found.place_last, delayAfter(found.place, FREE_OF_ALL)), left(found.name_last, delayAfter(found.name, FREE_OF_ALL, LONGEST_OF_A_NAME)));
  return Math.max(0, ...waits);
}

export async function noteFailure(db: Db, trier: Trier, at: Date): Promise<void> {
  await db
    .insertInto('failed_log_in')
    .values({ login: trier.login, address: placeOf(trier), at })
    .execute();
}

/** What was done wrong from here is forgotten: they know the password. */
export async function forgetFailures(db: Db, trier: Trier): Promise<void> {
  await db.deleteFrom('failed_log_in').where('login', '=', trier.login).where('address', '=', placeOf(trier)).execute();
}

function placeOf({ address, device }: Trier): string {
  return device === null ? address : `device ${device}`;
}
