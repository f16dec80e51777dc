import pg from 'pg';
import type { Logger } from 'pino';
import { LIVE_CHANNEL } from './record-event';

type Listener = (topics: readonly string[]) => void;

const RETRY_MS = 1_000;

/** Hears every committed change of every server process and passes on which topics changed. */
export class LiveFeed {
  private readonly listeners = new Set<Listener>();
  private client: pg.Client | null = null;
  private closed = false;

  constructor(
    private readonly url: string,
    private readonly log: Logger,
  ) {}

  async open(): Promise<void> {
    const client = new pg.Client({ connectionString: this.url });
    client.on('notification', ({ payload }) => payload && this.tell(JSON.parse(payload) as string[]));
    client.on('error', (error) => this.log.warn({ error: error.message }, 'live feed lost its connection'));
    client.on('end', () => void this.reopen());
    await client.connect();
    await client.query(`listen ${LIVE_CHANNEL}`);
    this.client = client;
  }

  subscribe(listener: Listener): () => void {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  }

  async close(): Promise<void> {
    this.closed = true;
    await this.client?.end();
  }

  private tell(topics: readonly string[]) {
    for (const listener of this.listeners) listener(topics);
  }

  /** While it was away changes may have passed unheard: everything counts as changed. */
  private async reopen() {
    if (this.closed) return;
    await new Promise((resolve) => setTimeout(resolve, RETRY_MS));
    try {
      await this.open();
      this.tell(['*']);
    } catch {
      void this.reopen();
    }
  }
}
