// npm run bench: every measurement, as a table of ratios taken in one run. With --write also into docs/performance.md.
import { mkdtempSync, openSync, closeSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { pathToFileURL } from 'node:url';
import { dropDatabase, ensureDatabase, freePort, startCluster } from './lib/cluster.mjs';
import { needPostgres } from './lib/debian.mjs';
import { installPackages, root } from './lib/packages.mjs';
import { build, loadDemo, onEnd, prepareDatabase, run, startServer } from './lib/steps.mjs';

const TODAY = '2027-03-09';
const stops = [];
const end = onEnd(async () => {
  for (const stop of stops.reverse()) await stop();
});

try {
  await installPackages();
  const folder = mkdtempSync(join(tmpdir(), 'nockwright-bench-'));
  stops.push(() => rmSync(folder, { recursive: true, force: true }));
  const promise = await measured('promise', folder, {});

  await build();
  const cluster = await startCluster('test', { fsync: false });
  if (cluster.started) stops.push(() => cluster.stop());
  await dropDatabase(cluster, 'bench');
  const urls = await ensureDatabase(cluster, 'bench');
  await prepareDatabase(urls);
  const settings = await meteredServer(urls, folder);
  const http = await measured('http', folder, { ...settings, NOCK_TODAY: TODAY, NOCK_DATABASE: urls.app, NOCK_OWNER_DATABASE: urls.owner });

  const { hostile, typing } = await onTheDemo(cluster, folder);
  const acts = await actsOnDisk(folder, 'the demo book');
  const waiting = await actsOnDisk(folder, 'the demo book where a commit waits 1 ms', undefined, 1_000);
  const manyActs = await actsOnDisk(folder, '100,000 open lines', 100_000);

  const write = process.argv.includes('--write') ? ['--write'] : [];
  await run('node', ['--import', 'tsx', join(root, 'bench/report.ts'), ...write, promise, http, hostile, typing, acts, waiting, manyActs]);
  await end(0);
} catch (error) {
  console.error(`\nnpm run bench: ${error.message}`);
  await end(1);
}

/** A server with the demo and the loop meter: somebody types, then somebody means it no good. */
async function onTheDemo(cluster, folder) {
  await dropDatabase(cluster, 'bench_hostile');
  const urls = await ensureDatabase(cluster, 'bench_hostile');
  await prepareDatabase(urls);
  await loadDemo(urls, { NOCK_TODAY: TODAY });
  const settings = await meteredServer(urls, folder);
  const typing = await measured('typing', folder, settings);
  return { typing, hostile: await measured('hostile', folder, settings) };
}

/** Starts a server that tells how long its event loop was kept from its next turn; gives what a bench is told of it. */
async function meteredServer(urls, folder) {
  const file = join(mkdtempSync(join(folder, 'loop-')), 'loop.json');
  const meter = `--import ${pathToFileURL(join(root, 'bench/loop-meter.mjs')).href}`;
  const server = await startServer({ urls, port: await freePort(0), env: { NOCK_TODAY: TODAY, NOCK_LOOP_FILE: file, NODE_OPTIONS: meter } });
  stops.push(() => server.stop());
  return { NOCK_URL: server.url, NOCK_PID: String(server.pid), NOCK_LOOP_FILE: file };
}

/**
 * A server with the demo, or so many open lines, on a cluster that writes to disk before it answers, as pgbench beside it.
 * `commitWaits`: microseconds that each commit waits before it is written, of both: many disks take as long, this one may not.
 */
async function actsOnDisk(folder, desk, lines, commitWaits = 0) {
  const cluster = await startCluster('bench');
  if (cluster.started) stops.push(() => cluster.stop());
  for (const name of ['acts', 'tpcb']) await dropDatabase(cluster, name);
  const urls = await ensureDatabase(cluster, 'acts');
  await ensureDatabase(cluster, 'tpcb');
  await prepareDatabase(urls);
  if (lines === undefined) await loadDemo(urls, { NOCK_TODAY: TODAY });
  const server = await startServer({ urls, port: await freePort(0), env: { NOCK_TODAY: TODAY } });
  stops.push(() => server.stop());
  return measured('acts', folder, {
    NOCK_TODAY: TODAY,
    NOCK_DESK: desk,
    NOCK_COMMIT_WAITS: String(commitWaits),
    ...(lines === undefined ? {} : { NOCK_LINES: String(lines) }),
    NOCK_URL: server.url,
    NOCK_OWNER_DATABASE: cluster.url('postgres', 'acts'),
    NOCK_PGBENCH: join(needPostgres(), 'pgbench'),
    NOCK_PGBENCH_URL: cluster.url('postgres', 'tpcb'),
  });
}

/** Runs a bench in a process of its own; gives the file with the figures it printed. */
async function measured(name, folder, env) {
  console.error(`Measuring: ${name} ...`);
  const file = join(mkdtempSync(join(folder, 'figures-')), `${name}.json`);
  const out = openSync(file, 'w');
  try {
    const words = ['--expose-gc', '--import', 'tsx', join(root, 'bench', `${name}.ts`)];
    await run('node', words, { stdio: ['ignore', out, 'inherit'], env: { ...process.env, ...env } });
  } finally {
    closeSync(out);
  }
  return file;
}
