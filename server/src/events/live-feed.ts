import pg from 'pg';
import type { Logger } from 'pino';
import { LIVE_CHANNEL } from './record-event';

type Listener = (topics: readonly string[]) => void;

/** Waits between tries to hear again: doubled each time up to the longest, and never the same for two servers. */
const FIRST_MS = 250;
const LONGEST_MS = 10_000;
const CONNECT_MS = 5_000;

/**
 * Hears every committed change of every server process and passes on which topics changed. Where its connection is lost, one
 * loop tries to have another until it does.
 */
export class LiveFeed {
  private readonly listeners = new Set<Listener>();
  private client: pg.Client | null = null;
  private closed = false;
  private reopening = false;
  private end: () => void = () => undefined;
  /** Comes when it is closed: nothing more will be heard. */
  readonly ended = new Promise<void>((resolve) => (this.end = resolve));

  constructor(
    private readonly url: string,
    private readonly log: Logger,
  ) {}

  async open(): Promise<void> {
    const client = new pg.Client({ connectionString: this.url, connectionTimeoutMillis: CONNECT_MS, keepAlive: true });
    client.on('error', (error) => this.log.warn({ error: error.message }, 'live feed lost its connection'));
    try {
      await client.connect();
      await client.query(`listen ${LIVE_CHANNEL}`);
    } catch (error) {
      // One that never came up is not gone on with; what is half open is given back.
      void client.end().catch(() => undefined);
      throw error;
    }
    if (this.closed) return client.end();
    client.on('notification', ({ payload }) => payload && this.tell(JSON.parse(payload) as string[]));
    client.once('end', () => void this.reopen());
    this.client = client;
  }

  subscribe(listener: Listener): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  /** How many hear of changes. */
  get size(): number {
    return this.listeners.size;
  }

  async close(): Promise<void> {
    this.closed = true;
    this.end();
    await this.client?.end().catch(() => undefined);
  }

  private tell(topics: readonly string[]) {
    for (const listener of this.listeners) listener(topics);
  }

  /** While it was away changes may have passed unheard: everything counts as changed. */
  private async reopen() {
    if (this.closed || this.reopening) return;
    this.reopening = true;
    this.client = null;
    for (let wait = FIRST_MS; !this.closed; wait = Math.min(wait * 2, LONGEST_MS)) {
      await new Promise((resolve) => setTimeout(resolve, wait * (0.5 + Math.random() / 2)));
      try {
        await this.open();
        break;
      } catch (error) {
        this.log.warn({ error: (error as Error).message }, 'live feed cannot hear yet');
      }
    }
    this.reopening = false;
    this.tell(['*']);
  }
}
