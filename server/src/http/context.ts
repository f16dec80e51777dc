import type { Role } from '@nockwright/contract/shape';
import type { Logger } from 'pino';
import type { Clock, Now } from '../clock';
import type { Db, Trx } from '../database';
import type { Jobs } from '../jobs';
import type { Work } from '../work';

export interface CurrentUser {
  readonly id: number;
  readonly login: string;
  readonly name: string;
  readonly role: Role;
}

/** What the server is made of; handed to every area when its routes are mounted. */
export interface Services {
  readonly db: Db;
  readonly clock: Clock;
  readonly log: Logger;
  /** Where slow work waits. */
  readonly jobs: Jobs;
  /** Where what takes long is computed. */
  readonly work: Work;
  /** The database, for who works beside this thread. */
  readonly databaseUrl: string;
  /** Where customers reach this server: links in mails begin with it. */
  readonly publicUrl: string;
  /** Where log-in cookies may be sent: over https only, but for loopback. */
  readonly secureCookies: boolean;
  /** Addresses of our own proxies: what they say of where a request comes from is believed. */
  readonly trustedProxies: readonly string[];
}

/** What a query has: it reads, and sees no half-done change. */
export interface QueryContext {
  readonly db: Db;
  readonly user: CurrentUser;
  readonly now: Now;
  /** The hash of the session that asks. */
  readonly session: string;
}

/** What a command has: one transaction, one reading of the clock, one user. */
export interface CommandContext {
  readonly trx: Trx;
  readonly user: CurrentUser;
  readonly now: Now;
  readonly jobs: Jobs;
  readonly publicUrl: string;
  /** The hash of the session that asks; empty where nobody asks. */
  readonly session?: string;
  /** Has something done when the change has been committed; it is left out where that fails. */
  readonly afterCommit: (run: () => void) => void;
}
