// npm run soak -- MINUTES: random work by many clients on a server of its own, with faults thrown in; then everything that must hold.
import { spawn } from 'node:child_process';
import { closeSync, mkdirSync, openSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { ensureDatabase, freePort, startCluster } from './lib/cluster.mjs';
import { faults } from './lib/faults.mjs';
import { startMailServer } from './lib/mail-server.mjs';
import { dataFolder, installPackages, root } from './lib/packages.mjs';
import { build, keepAlive, onEnd, startServer } from './lib/steps.mjs';

const TODAY = '2027-03-09';
const minutes = Number(process.argv[2] ?? 30);
/** A short one has each kind of fault once; a long one draws them. */
const SHORT = ['backends', 'blink', 'files', 'server', 'busyMail', 'backends', 'crash', 'stop'];
const DRAWN = ['backends', 'backends', 'blink', 'crash', 'server', 'stop', 'busyMail', 'hangingMail', 'rudeMail', 'files', 'files'];
const LONG_MINUTES = 5;
/** From here on no more faults: what they left behind has to go by itself. */
const QUIET_AFTER = 0.75;
/** A garbage collector gives back late, a code cache not at all; what grows without end passes this soon. */
const MOST_GROWTH_MB = 150;
/** How long a server may take to be there again on a machine that is busy. */
const START_SECONDS = 60;
const pause = (seconds) => new Promise((resolve) => setTimeout(resolve, seconds * 1000));
const stops = [];
let stopping = false;
const end = onEnd(async () => {
  stopping = true;
  for (const stop of stops.reverse()) await stop();
});

/** What a process holds of memory, in MB. */
function memoryOf(pid) {
  const line = /VmRSS:\s+(\d+) kB/.exec(readFileSync(`/proc/${pid}/status`, 'utf8'));
  return Math.round(Number(line[1]) / 1024);
}

/** The same of the server, that may be starting again just now. */
async function memoryOnceThere(pid) {
  for (let wait = START_SECONDS; ; wait--) {
    try {
      return memoryOf(pid());
    } catch (error) {
      if (wait === 0) throw error;
      await pause(1);
    }
  }
}

/** Starts the clients as a process of their own; gives how to have something done by them. */
function startClients(env) {
  const child = spawn('node', ['--import', 'tsx', join(root, 'soak/clients.ts')], {
    cwd: root,
    stdio: ['ignore', 'inherit', 'inherit', 'ipc'],
    env: { ...process.env, ...env },
  });
  const waiting = new Map();
  const answers = (act) => new Promise((resolve, reject) => waiting.set(act, { resolve, reject }));
  child.on('message', (told) => (told.failed ? waiting.get(told.done)?.reject(new Error(told.failed)) : waiting.get(told.done)?.resolve(told)));
  child.once('exit', (status) => [...waiting.values()].forEach(({ reject }) => reject(new Error(`the clients ended with ${status}`))));
  const ready = answers('ready');
  const ask = async (act, more = {}) => {
    await ready;
    const answer = answers(act);
    child.send({ act, ...more });
    return answer;
  };
  return { ask, stop: () => child.kill('SIGTERM') };
}

async function soak() {
  const cluster = await startCluster('soak');
  stops.push(() => cluster.stop());
  const { default: pg } = await import('pg');
  const admin = async () => {
    const client = new pg.Client({ connectionString: cluster.url('postgres', 'postgres') });
    await client.connect();
    return client;
  };
  const urls = await ensureDatabase(cluster, 'soak');
  const exchange = join(dataFolder, 'soak-exchange');
  rmSync(exchange, { recursive: true, force: true });
  mkdirSync(exchange, { recursive: true });
  const mail = await startMailServer();
  stops.push(() => mail.stop());
  const port = await freePort(0);
  const log = join(dataFolder, 'soak-server.log');
  rmSync(log, { force: true });
  const out = openSync(log, 'a');
  stops.push(() => closeSync(out));

  const clients = startClients({
    NOCK_URL: `http://127.0.0.1:${port}`,
    NOCK_CLUSTER: cluster.url('postgres', 'postgres'),
    NOCK_EXCHANGE: exchange,
    NOCK_TODAY: TODAY,
  });
  stops.push(() => clients.stop());
  await clients.ask('make');
  const env = { NOCK_TODAY: TODAY, NOCK_STAND_IN_SECONDS: '2', NOCK_SMTP: mail.url };
  const start = () => startServer({ urls, port, env, exchange, wait: 180_000, stdio: ['ignore', out, out] });
  let server = await start();
  stops.push(() => server.stop());
  let starts = 0;
  const again = (next) => {
    server = next;
    starts++;
  };
  const alive = keepAlive(server, start, { stopping: () => stopping, again, say: () => undefined });
  alive.catch((error) => {
    console.error(error.message);
    void end(1);
  });

  await clients.ask('begin');
  console.log(`Sixteen clients work for ${minutes} minutes; what the server says is in ${log}`);
  const began = Date.now();
  const gone = () => (Date.now() - began) / (minutes * 60_000);
  const kinds = faults({ cluster, admin, server: () => server, mail, exchange });
  const list = minutes < LONG_MINUTES ? [...SHORT] : null;
  if (minutes >= 10) await pause(30).then(kinds.outage).then(console.log);
  const between = list ? (minutes * 60 * QUIET_AFTER) / (list.length + 2) : 12;
  while (gone() < QUIET_AFTER) {
    await pause(between * (0.6 + 0.4 * Math.random()));
    const kind = list ? list.shift() : DRAWN[Math.floor(Math.random() * DRAWN.length)];
    if (!kind) break;
    console.log(`${((Date.now() - began) / 1000).toFixed(0)} s: ${await kinds[kind]()}`);
  }
  await pause(5);
  const before = await memoryOnceThere(() => server.pid);
  while (gone() < 1) await pause(1);
  const { steps } = await clients.ask('stop');
  const { faults: found, figures } = await clients.ask('check', { patienceMs: minutes < LONG_MINUTES ? 20_000 : 300_000 });
  const after = await memoryOnceThere(() => server.pid);
  const client = await admin();
  const { rows } = await client.query("select count(*)::int as n from pg_stat_activity where datname = 'soak' and application_name <> 'soak clients'");
  const sent = await client.query('select 1').then(() => mail.taken.size);
  await client.end();
  const said = readFileSync(log, 'utf8').split('\n');
  const unexpected = said.filter((line) => line.includes('unexpected error'));
  const deadlocks = said.filter((line) => line.includes('two transactions waited for each other')).length;
  if (unexpected.length > 0) found.push(`${unexpected.length} unexpected errors, the first: ${unexpected[0].slice(0, 600)}`);
  if (deadlocks > 0) found.push(`${deadlocks} times two transactions waited for each other`);
  if (after > before + MOST_GROWTH_MB) found.push(`the server held ${before} MB when the faults were over, ${after} MB at the end`);
  console.log(
    JSON.stringify({ steps, ...figures, starts, deadlocks, messages: sent, memoryMb: { faultsOver: before, end: after }, connections: rows[0].n }, null, 1),
  );
  for (const fault of found) console.error(`NOT SO: ${fault}`);
  console.log(found.length === 0 ? 'Everything that must hold holds.' : `${found.length} things do not hold.`);
  return found.length;
}

let failed = 1;
try {
  if (!(minutes > 0)) throw new Error('how many minutes? npm run soak -- 30');
  await installPackages();
  await build();
  failed = await soak();
} catch (error) {
  console.error(`\nnpm run soak: ${error.stack}`);
}
await end(failed === 0 ? 0 : 1);
