// npm start: everything from a fresh clone to the first page; stops what it started when it is interrupted.
import { join } from 'node:path';
import { freePort, startCluster, ensureDatabase } from './lib/cluster.mjs';
import { dataFolder, installPackages } from './lib/packages.mjs';
import { build, loadDemo, onEnd, prepareDatabase, startServer } from './lib/steps.mjs';

const PORT = Number(process.env.PORT ?? 4600);
const stops = [];
const end = onEnd(async () => {
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
  const server = await startServer({ urls, port, exchange: process.env.NOCK_EXCHANGE ?? join(dataFolder, 'exchange') });
  stops.push(() => server.stop());
  console.log(`\nNockwright is at ${server.url}\nCtrl+C stops it and its database; the data stays.`);
  await server.ended;
  await end(0);
} catch (error) {
  console.error(`\nnpm start: ${error.message}`);
  await end(1);
}
