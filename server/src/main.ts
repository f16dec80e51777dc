import { serve } from '@hono/node-server';
import pino from 'pino';
import { createClock } from './clock';
import { connect } from './database';
import { LiveFeed } from './events';
import { createApp } from './http/app';
import type { Services } from './http/context';
import { JobQueue } from './jobs';
import { createTransport, deliverMail } from './mail';
import { ExchangeFolder, keepGoing, loadStandIn, SupplierStandIn } from './supply';

const setting = (name: string) => {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is not set; npm start sets it`);
  return value;
};

async function main() {
  const log = pino({ level: process.env['NOCK_LOG'] ?? 'info', serializers: { error: pino.stdSerializers.err } });
  const url = setting('NOCK_DATABASE');
  const { db, pool } = connect(url);
  const feed = new LiveFeed(url, log);
  await feed.open();
  const jobs = new JobQueue(url, log);
  const publicUrl = (process.env['NOCK_PUBLIC_URL'] ?? `http://127.0.0.1:${setting('NOCK_PORT')}`).replace(/\/$/, '');
  const services = { db, clock: createClock(process.env['NOCK_TODAY']), log, jobs, publicUrl, secureCookies: process.env['NOCK_SECURE'] === 'yes' };
  const transport = createTransport(db, process.env['NOCK_SMTP']);
  await jobs.open({ mail: (data, last) => deliverMail(services, transport, (data as { mail: number }).mail, last) });
  const app = createApp(services, feed, process.env['NOCK_PAGES']);
  const server = serve({ fetch: app.fetch, port: Number(setting('NOCK_PORT')), hostname: '127.0.0.1' }, ({ port }) =>
    log.info(`listening on http://127.0.0.1:${port}`),
  );

  const stopExchange = openExchange(services);

  let stopping = false;
  const stop = async () => {
    if (stopping) return;
    stopping = true;
    server.close();
    if ('closeAllConnections' in server) server.closeAllConnections();
    await stopExchange();
    await jobs.close();
    await feed.close();
    await pool.end();
    process.exit(0);
  };
  process.on('SIGINT', () => void stop());
  process.on('SIGTERM', () => void stop());
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
