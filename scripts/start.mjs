// npm start: everything from a fresh clone to the first page; stops what it started when it is interrupted.
import { join } from 'node:path';
import { freePort, startCluster, ensureDatabase } from './lib/cluster.mjs';
import { dataFolder, installPackages } from './lib/packages.mjs';
import { build, keepAlive, loadDemo, onEnd, prepareDatabase, startCarriers, startServer } from './lib/steps.mjs';

/** The database may be away for a while when the server is started again. */
const READY_MS = 180_000;
const PORT = Number(process.env.PORT ?? 4600);
const stops = [];
let stopping = false;
const end = onEnd(async () => {
  stopping = true;
  for (const stop of stops.reverse()) await stop();
});

try {
  await installPackages();
  console.log('Starting the database on loopback ...');
  const cluster = await startCluster('app');
  if (cluster.started) stops.push(() => cluster.stop());
  const urls = await ensureDatabase(cluster, 'nockwright');
  await build();
  await prepareDatabase(urls);
  console.log('Looking at the data (the demo is loaded where there is none; half a minute the first time) ...');
  await loadDemo(urls);
  const port = await freePort(PORT);
  const carriers = await startCarriers({ folder: join(dataFolder, 'carriers'), seconds: 90, freePort });
  stops.push(() => carriers.stop());
  const env = {
    NOCK_CARRIERS: carriers.urls,
    NOCK_MAILBOX: process.env.NOCK_MAILBOX ?? join(dataFolder, 'mailbox'),
  };
  const start = () => startServer({ urls, port, env, exchange: process.env.NOCK_EXCHANGE ?? join(dataFolder, 'exchange'), wait: READY_MS });
  let server = await start();
  stops.push(() => server.stop());
  console.log(`\nNockwright is at ${server.url}\nCtrl+C stops it and its database; the data stays.`);
  await keepAlive(server, start, { stopping: () => stopping, again: (next) => (server = next) });
  await end(0);
} catch (error) {
  console.error(`\nnpm start: ${error.message}`);
  await end(1);
}
