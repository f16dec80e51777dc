import { randomBytes } from 'node:crypto';
import { DeskClient } from '../server/test/desk-client';
import type { Db } from '../server/src/database';

/** A fault lasts a minute at most, and whoever comes back has something to do first. */
const PATIENCE_MS = 180_000;
const PAUSE_MS = 250;
/** What is done again at the end: so many of what was acknowledged, chosen by chance. */
const KEPT_OF_A_HUNDRED = 20;
const MOST_KEPT = 4_000;

/** A change that was acknowledged: the same key must have the same answer for ever. */
export interface Acknowledged {
  readonly path: string;
  readonly init: RequestInit;
  readonly reply: string;
}

/** A desk behind a network: what finds nobody there, or is told to come again, is sent again with its key. */
export class RemoteDesk extends DeskClient {
  readonly statuses = new Map<number, number>();
  readonly acknowledged: Acknowledged[] = [];
  /** Requests that found nobody there, were cut off, or were told to come again. */
  away = 0;
  /** Answers that no request should ever have. */
  readonly wrong: string[] = [];

  constructor(
    private readonly url: string,
    db: Db,
  ) {
    super(db);
  }

  protected async fetch(path: string, init: RequestInit): Promise<Response> {
    const until = Date.now() + PATIENCE_MS;
    for (;;) {
      try {
        const response = await fetch(this.url + path, { ...init, signal: AbortSignal.timeout(PATIENCE_MS) });
        const text = await response.text();
        if (response.status !== 503) return this.note(path, init, response, text);
      } catch (error) {
        if (Date.now() > until) throw error;
      }
      this.away++;
      if (Date.now() > until) throw new Error(`${init.method} ${path}: nobody there for ${PATIENCE_MS / 1000} s`);
      await new Promise((resolve) => setTimeout(resolve, PAUSE_MS * (1 + Math.random())));
    }
  }

  /** The answer to a change that was acknowledged, sent again with its key. */
  async again(path: string, init: RequestInit): Promise<string> {
    return (await this.fetch(path, init)).text();
  }

  /** A session of its own, as the header that carries it. */
  async session(): Promise<string> {
    return (await this.logIn('mona')).headers.get('Set-Cookie')!.split(';')[0]!;
  }

  private note(path: string, init: RequestInit, response: Response, text: string): Response {
    const { status } = response;
    this.statuses.set(status, (this.statuses.get(status) ?? 0) + 1);
    if (status >= 500) this.wrong.push(`${init.method} ${path}: ${status} ${text.slice(0, 300)}`);
    const changes = init.method !== 'GET' && path !== '/api/login';
    if (changes && status === 200 && this.acknowledged.length < MOST_KEPT && randomBytes(1)[0]! % 100 < KEPT_OF_A_HUNDRED)
      this.acknowledged.push({ path, init, reply: text });
    return new Response(text, { status, headers: response.headers });
  }
}
