import { serve } from '@hono/node-server';
import type { Server } from 'node:http';
import { freshenBoards } from './boards';
import { createClock } from './clock';
import { connect } from './database';
import { LiveFeed } from './events';
import { createApp } from './app/app';
import type { Services } from './http/context';
import { JobQueue, sweep } from './jobs';
import { createLog } from './log';
import { createTransport, deliverMail, sweepMail } from './mail';
import { inThreads } from './work';
import { hearNews, releasePicks, setCarrierUrls, settleLabel, sweepLabels } from './shipping';
import { ExchangeFolder, keepGoing, loadStandIn, SupplierStandIn } from './supply';

/** A stop takes no longer: what is under way by then is cut off. */
const STOP_MS = 10_000;
/** Of that, what requests have to end in. */
const REQUESTS_MS = 7_000;
/** To have sent the head of a request, and all of it. */
const HEADERS_MS = 15_000;
const REQUEST_MS = 60_000;
const KEPT_MS = 65_000;
const IDLE_MS = 100;
/** Whose turn it is where no user asks. */
const NOBODY = 0;
const RETRY_MS = 1_000;
/** A mail without a job is found, and what is of no use any more thrown away, so often. */
const SWEEP_MS = 60_000;
/** It is looked so often whether orders are to be released to pick. */
const PICKS_MS = 20_000;
/** Carriers are asked what has become of parcels so often. */
const NEWS_MS = 5_000;
/** What boards show is brought up to date so often, so that who reads them does not wait for it. */
const BOARDS_MS = 1_000;

const setting = (name: string) => {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is not set; npm start sets it`);
  return value;
};

async function main() {
  const log = createLog(process.env['NOCK_LOG'] ?? 'info');
  endWhereLost(log);
  const url = setting('NOCK_DATABASE');
  const { db, pool } = connect(url);
  const feed = new LiveFeed(url, log);
  const jobs = new JobQueue(url, log);
  const work = inThreads();
  const publicUrl = (process.env['NOCK_PUBLIC_URL'] ?? `http://127.0.0.1:${setting('NOCK_PORT')}`).replace(/\/$/, '');
  const services = {
    db,
    clock: createClock(process.env['NOCK_TODAY']),
    log,
    jobs,
    work,
    databaseUrl: url,
    publicUrl,
    secureCookies: process.env['NOCK_SECURE'] === 'yes' || publicUrl.startsWith('https:'),
    trustedProxies: (process.env['NOCK_PROXIES'] ?? '').split(',').filter(Boolean),
  };
  // It answers before it is ready: a database that is away keeps nobody waiting without a word.
  const server = listen(createApp(services, feed, process.env['NOCK_PAGES']), log);
  const stopping = new Stopping();
  const stop = async () => {
    if (!stopping.begin()) return;
    setTimeout(() => process.exit(1), STOP_MS).unref();
    await endRequests(server, feed);
    await Promise.all([stopping.stopLoops(), jobs.close(), work.close()]);
    await pool.end();
    process.exit(0);
  };
  process.on('SIGINT', () => void stop());
  process.on('SIGTERM', () => void stop());

  const transport = createTransport(db, process.env['NOCK_SMTP'], process.env['NOCK_MAILBOX']);
  await up('live feed', () => feed.open(), stopping, log);
  await up('carriers', () => setCarrierUrls(db, process.env['NOCK_CARRIERS'] ?? ''), stopping, log);
  const handlers = {
    mail: (data: unknown, last: boolean) => deliverMail(services, transport, (data as { mail: number }).mail, last),
    carrier: (data: unknown, last: boolean) => settleLabel(services, (data as { label: number }).label, last),
  };
  await up('job queue', () => jobs.open(handlers), stopping, log);
  if (!stopping.begun) keepLoops(services, stopping);
}

/** What nobody expected leaves the process in a state nobody knows: it ends, and whoever keeps it alive starts it again. */
function endWhereLost(log: Services['log']): void {
  for (const event of ['uncaughtException', 'unhandledRejection'] as const)
    process.on(event, (error: unknown) => {
      log.fatal({ error }, event);
      process.exit(1);
    });
}

function listen(app: ReturnType<typeof createApp>, log: Services['log']): Server {
  const server = serve({ fetch: app.fetch, port: Number(setting('NOCK_PORT')), hostname: '127.0.0.1' }, ({ port }) =>
    log.info(`listening on http://127.0.0.1:${port}`),
  ) as Server;
  // Who sends their request a sign at a time holds nothing for long.
  server.headersTimeout = HEADERS_MS;
  server.requestTimeout = REQUEST_MS;
  // Whoever keeps a connection for the next request must not find it closed as they send it.
  server.keepAliveTimeout = KEPT_MS;
  return server;
}

/** Takes no more requests, and lets those under way end for a while. */
async function endRequests(server: Server, feed: LiveFeed): Promise<void> {
  const idle = setInterval(() => server.closeIdleConnections(), IDLE_MS);
  const done = new Promise((resolve) => server.close(resolve));
  await feed.close();
  await Promise.race([done, pause(REQUESTS_MS)]);
  clearInterval(idle);
  server.closeAllConnections();
}

/** Whether the process is to end, and what then has to be stopped. */
class Stopping {
  private readonly loops: (() => Promise<unknown>)[] = [];
  begun = false;

  /** Whether this is the first word of it. */
  begin(): boolean {
    const first = !this.begun;
    this.begun = true;
    return first;
  }

  keep(...stops: readonly (() => Promise<unknown>)[]): void {
    this.loops.push(...stops);
  }

  stopLoops(): Promise<unknown> {
    return Promise.all(this.loops.map((stop) => stop()));
  }
}

/** Opens what the server needs; tries again until it is there or the server is to stop. */
async function up(what: string, open: () => Promise<unknown>, stopping: Stopping, log: Services['log']): Promise<void> {
  while (!stopping.begun) {
    try {
      await open();
      return;
    } catch (error) {
      log.warn({ error: (error as Error).message }, `${what} does not come up yet`);
      await pause(RETRY_MS);
    }
  }
}

/** What is done by the clock and not because somebody asked. */
function keepLoops(services: Services, stopping: Stopping): void {
  const { db, log } = services;
  const tidy = async () => {
    await sweepMail(services);
    await sweep(db);
  };
  const hear = async () => {
    await hearNews(services);
    await sweepLabels(services);
  };
  const boards = () => freshenBoards(services, services.clock(), NOBODY);
  const release = async () => {
    await boards();
    await releasePicks(services);
  };
  stopping.keep(
    openExchange(services),
    keepGoing(tidy, log, SWEEP_MS, 'sweeping'),
    keepGoing(hear, log, NEWS_MS, 'news of carriers'),
    keepGoing(release, log, PICKS_MS, 'releasing picks'),
    // What is cut off by a stop is done at the next start.
    keepGoing(() => boards().catch((error: unknown) => (stopping.begun ? undefined : Promise.reject(error as Error))), log, BOARDS_MS, 'boards'),
  );
}

function pause(milliseconds: number): Promise<void> {
  return new Promise((resolve) => setTimeout(resolve, milliseconds));
}

/** Files to and from suppliers, where a folder is set for them, and the stand-in that answers in place of real ones. */
function openExchange(services: Services): () => Promise<void> {
  const root = process.env['NOCK_EXCHANGE'];
  if (!root) return () => Promise.resolve();
  const folder = new ExchangeFolder(services, root);
  const standIn = new SupplierStandIn(root, () => services.clock().today);
  const given = process.env['NOCK_STAND_IN_SECONDS'];
  return keepGoing(async () => {
    await folder.round();
    await standIn.round(await loadStandIn(services.db, given === undefined ? undefined : { seconds: Number(given), habits: {} }));
  }, services.log);
}

main().catch((error: unknown) => {
  process.stderr.write(`Nockwright could not start: ${error instanceof Error ? error.message : String(error)}\n`);
  process.exit(1);
});
