// Steps that the commands of the project share: building, preparing a database, loading the demo.
import { spawn } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readdirSync, readFileSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { dataFolder, root } from './packages.mjs';

export const pagesFolder = join(root, 'web/dist/browser');
export const serverFile = join(root, 'server/dist/main.mjs');

/** Builds what has changed since the last build: the server as one bundle, the pages with Angular. */
export async function build() {
  await once('server build', ['core/src', 'contract/src', 'server/src'], serverFile, 'Building the server ...', buildServer);
  await once(
    'web build',
    ['core/src', 'contract/src', 'web/src', 'web/angular.json', 'web/public'],
    join(pagesFolder, 'index.html'),
    'Building the pages (about a minute) ...',
    () =>
      run('node', [join(root, 'node_modules/@angular/cli/bin/ng.js'), 'build'], { cwd: join(root, 'web'), env: { ...process.env, NG_CLI_ANALYTICS: 'false' } }),
  );
}

async function buildServer() {
  const { build: bundle, stop } = await import('esbuild');
  const entry = (name) => join(root, 'server/src', `${name}.ts`);
  // Our own packages go into the bundle; those from the registry stay where npm put them.
  const { dependencies } = JSON.parse(readFileSync(join(root, 'server/package.json'), 'utf8'));
  const outside = [...Object.keys(dependencies).filter((name) => !name.startsWith('@nockwright/')), 'big.js', 'date-fns', 'joi'];
  await bundle({
    entryPoints: {
      main: entry('main'),
      'carrier-main': entry('carrier-main'),
      prepare: entry('prepare'),
      'resequence-worker': entry('promise/resequence-worker'),
      worker: entry('worker'),
    },
    outdir: join(root, 'server/dist'),
    outExtension: { '.js': '.mjs' },
    bundle: true,
    platform: 'node',
    format: 'esm',
    target: 'node20',
    external: outside.flatMap((name) => [name, `${name}/*`]),
    sourcemap: true,
    logLevel: 'warning',
  });
  stop();
}

/** Runs a step unless its inputs are as they were when it last succeeded. */
async function once(name, inputs, output, message, step) {
  const hash = createHash('sha256');
  for (const input of [...inputs, 'package-lock.json']) hashInto(hash, join(root, input));
  const digest = hash.digest('hex');
  const stamp = join(dataFolder, `${name.replace(' ', '-')}.stamp`);
  if (existsSync(output) && existsSync(stamp) && readFileSync(stamp, 'utf8') === digest) return;
  console.log(message);
  await step();
  mkdirSync(dataFolder, { recursive: true });
  writeFileSync(stamp, digest);
}

function hashInto(hash, path) {
  const children = existsSync(path) ? safeList(path) : [];
  if (children === null) hash.update(path.slice(root.length)).update(readFileSync(path));
  else for (const child of children.sort()) hashInto(hash, join(path, child));
}

function safeList(path) {
  try {
    return readdirSync(path);
  } catch {
    return null;
  }
}

/** Migrations, forward only. */
export function prepareDatabase(urls) {
  return run('node', [join(root, 'server/dist/prepare.mjs')], { env: { ...process.env, NOCK_OWNER_DATABASE: urls.owner } });
}

/** The demo, where the database is empty; names its users either way. */
export function loadDemo(urls, env = {}) {
  return run('node', ['--import', 'tsx', join(root, 'demo/load-demo.ts')], { env: { ...process.env, ...env, NOCK_DATABASE: urls.app } });
}

/** Starts the server as a child; `url` once it answers. `exchange`: the folder for files to and from suppliers; `stdio`: where what it says goes. */
export async function startServer({ urls, port, env = {}, quiet = false, exchange, wait = 30_000, stdio }) {
  const child = spawn('node', [serverFile], {
    cwd: root,
    stdio: stdio ?? ['ignore', quiet ? 'ignore' : 'inherit', 'inherit'],
    env: {
      NOCK_LOG: 'warn',
      ...process.env,
      ...env,
      NOCK_DATABASE: urls.app,
      NOCK_PORT: String(port),
      NOCK_PAGES: pagesFolder,
      ...(exchange ? { NOCK_EXCHANGE: exchange } : {}),
    },
  });
  // Who stops us while it comes up stops it, too.
  children.add(child);
  const url = `http://127.0.0.1:${port}`;
  const ended = new Promise((resolve) =>
    child.once('exit', (status, signal) => {
      children.delete(child);
      resolve(status ?? signal);
    }),
  );
  const deadline = Date.now() + wait;
  for (;;) {
    const answers = await fetch(`${url}/api/ready`).then(
      (reply) => reply.ok,
      () => false,
    );
    if (answers) break;
    if (child.exitCode !== null || child.signalCode !== null || Date.now() > deadline) throw new Error('the server did not start; its messages above say why');
    await new Promise((resolve) => setTimeout(resolve, 100));
  }
  const stop = async () => {
    if (child.exitCode === null && child.signalCode === null) child.kill('SIGTERM');
    await ended;
  };
  return { url, ended, stop, pid: child.pid };
}

/** Carriers that are not there, by code and name. Each is a process of its own. */
const CARRIERS = [
  ['HARROW', 'Harrow Parcels'],
  ['TARN', 'Tarn Freight'],
];

/**
 * Starts the stand-ins of carriers; `urls` tells a server where they answer. `folder`: where they remember what they have done; `seconds`: how long
 * a parcel takes from one stage to the next, 0 for those that move only when they are told.
 */
export async function startCarriers({ folder, seconds = 0, env = {}, freePort }) {
  mkdirSync(folder, { recursive: true });
  const started = [];
  for (const [code, name] of CARRIERS) {
    const port = await freePort(0);
    const child = spawn('node', [join(root, 'server/dist/carrier-main.mjs')], {
      cwd: root,
      stdio: ['ignore', 'ignore', 'inherit'],
      env: {
        ...process.env,
        ...env,
        NOCK_CARRIER: `${code}=${name}`,
        NOCK_PORT: String(port),
        NOCK_CARRIER_FILE: join(folder, `${code.toLowerCase()}.json`),
        NOCK_CARRIER_SECONDS: String(seconds),
      },
    });
    children.add(child);
    child.once('exit', () => children.delete(child));
    started.push({ code, url: `http://127.0.0.1:${port}`, child });
  }
  return {
    urls: started.map(({ code, url }) => `${code}=${url}`).join(','),
    stop: () => started.forEach(({ child }) => child.kill('SIGTERM')),
  };
}

/** In a minute. */
const MOST_STARTS = 5;

/**
 * Starts a server again whenever it ends by itself, until `stopping` says so; one that keeps on ending is a fault that somebody
 * has to see: then it throws. `again` is called with each server that is up again.
 */
export async function keepAlive(first, start, { stopping, again, most = MOST_STARTS, say = console.error }) {
  let server = first;
  for (const began = [Date.now()]; ; began.push(Date.now())) {
    const how = await server.ended;
    if (stopping()) return;
    if (began.filter((at) => at > Date.now() - 60_000).length > most) throw new Error(`the server ended ${most} times in a minute, the last time with ${how}`);
    say(`The server has ended (${how}) and is started again ...`);
    server = await start();
    again(server);
    say('It is up again; nothing that was acknowledged is lost.');
  }
}

const children = new Set();

/** Runs a program to its end and gives its exit status; it is stopped with us. */
export function spawnChild(program, words, options = {}) {
  const child = spawn(program, words, { cwd: root, stdio: ['ignore', 'inherit', 'inherit'], ...options });
  children.add(child);
  return new Promise((resolve, reject) => {
    child.once('error', reject);
    child.once('exit', (status) => {
      children.delete(child);
      resolve(status ?? 1);
    });
  });
}

/** Runs a program to its end; fails where it fails. */
export async function run(program, words, options = {}) {
  const status = await spawnChild(program, words, options);
  if (status !== 0) throw new Error(`${words.find((word) => !word.startsWith('-')) ?? program} failed`);
}

const PARENT_MS = 1_000;

/** Calls `stop` once, on whatever ends the program first: a signal, its own end, or the end of whoever started it. */
export function onEnd(stop) {
  let stopping = null;
  const end = (status) => {
    stopping ??= Promise.resolve()
      .then(() => {
        for (const child of children) child.kill('SIGTERM');
        return stop();
      })
      .finally(() => process.exit(status));
    return stopping;
  };
  for (const [signal, status] of [
    ['SIGINT', 130],
    ['SIGTERM', 143],
    ['SIGHUP', 129],
  ])
    process.on(signal, () => void end(status));
  const parent = process.ppid;
  setInterval(() => process.ppid !== parent && void end(129), PARENT_MS).unref();
  return end;
}
