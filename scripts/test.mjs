// npm test: format, lint, types, layer rules, unit tests and stories in the browser, each on its own database.
// Its last line counts them all: N passed, N failed.
import { spawnSync } from 'node:child_process';
import { closeSync, existsSync, mkdirSync, openSync, readFileSync, rmSync } from 'node:fs';
import { join } from 'node:path';
import { changedFiles, chooseTests, keepTimes, reached } from './lib/changed.mjs';
import { copyDatabase, dropDatabase, ensureDatabase, freePort, startCluster } from './lib/cluster.mjs';
import { needChromium } from './lib/debian.mjs';
import { dataFolder, installPackages, root } from './lib/packages.mjs';
import { build, loadDemo, onEnd, prepareDatabase, spawnChild, startCarriers, startServer } from './lib/steps.mjs';

const TODAY = '2027-03-09';
const count = { passed: 0, failed: 0 };
/** Seconds of each part, in the sequence they ended. */
const spent = [];

async function timed(name, part) {
  const began = Date.now();
  try {
    return await part();
  } finally {
    spent.push([name, Math.round((Date.now() - began) / 1000)]);
  }
}
const stops = [];
const end = onEnd(async () => {
  for (const stop of stops.reverse()) await stop();
});

/** Tools that only look at files, two at a time; what one says is printed when it is done. */
async function tools(list) {
  const waiting = [...list];
  const work = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift()) await tool(...next);
  };
  await Promise.all([work(), work()]);
}

async function tool(name, file, words) {
  const said = join(dataFolder, `${name.replaceAll(' ', '-').toLowerCase()}.log`);
  const out = openSync(said, 'w');
  const status = await spawnChild('node', [join(root, 'node_modules', file), ...words], { cwd: root, stdio: ['ignore', out, out] });
  closeSync(out);
  if (status === 0) count.passed++;
  else count.failed++;
  const text = readFileSync(said, 'utf8').trim();
  console.log(status === 0 ? `${name}: passed` : `\n${text}\n${name}: FAILED`);
}

/** Counts from a runner's JSON report; a runner that leaves none has failed. */
async function counted(name, file, words, report, read, options = {}) {
  console.log(`\n${name}`);
  rmSync(report, { force: true });
  const status = await spawnChild('node', [join(root, 'node_modules', file), ...words], options);
  const found = existsSync(report) ? read(JSON.parse(readFileSync(report, 'utf8'))) : { passed: 0, failed: 1 };
  count.passed += found.passed;
  count.failed += found.failed + (status !== 0 && found.failed === 0 ? 1 : 0);
  console.log(`${name}: ${found.passed} passed, ${found.failed} failed`);
}

/** Builds the application and loads the demo, twice alike; gives how to reach both. */
async function prepareDesks(cluster) {
  await build();
  await dropDatabase(cluster, 'stories');
  const urls = await ensureDatabase(cluster, 'stories');
  await prepareDatabase(urls);
  await loadDemo(urls, { NOCK_TODAY: TODAY });
  return [await copyDatabase(cluster, 'stories', 'stories_2'), urls];
}

const PLACES = ['core', 'contract', 'server', 'web/src', 'demo', 'bench', 'soak'];
const lint = (files) => ['Lint', 'eslint/bin/eslint.js', [...files, '--max-warnings', '0', '--no-warn-ignored']];
const format = (files) => ['Format', 'prettier/bin/prettier.cjs', ['--check', '--ignore-unknown', '--log-level', 'warn', ...files]];
/** By the project whose types they are. */
const TYPES = [
  ['web', ['Types of the pages', '@angular/compiler-cli/bundles/src/bin/ngc.js', ['-p', 'web/tsconfig.json', '--noEmit']]],
  ...['core', 'contract', 'server'].map((place) => [place, [`Types of ${place}`, 'typescript/bin/tsc', ['-p', place]]]),
  ['e2e', ['Types of the stories', 'typescript/bin/tsc', ['-p', 'e2e']]],
  ['web', ['Types of the worker', 'typescript/bin/tsc', ['-p', 'web/tsconfig.worker.json', '--noEmit']]],
];
const LAYERS = ['Layer rules', 'dependency-cruiser/bin/dependency-cruise.mjs', ['--config', '.dependency-cruiser.cjs', '--output-type', 'err', ...PLACES]];
const jestReport = join(dataFolder, 'jest.json');

function jestEnv(cluster) {
  return { ...process.env, NOCK_TEST_CLUSTER: cluster.url('postgres', 'postgres'), NODE_OPTIONS: '--experimental-vm-modules --no-warnings' };
}

async function jest(cluster, words) {
  await counted(
    'Jest',
    'jest/bin/jest.js',
    ['--json', `--outputFile=${jestReport}`, '--silent', '--maxWorkers=2', ...words],
    jestReport,
    (report) => {
      keepTimes(report);
      return { passed: report.numPassedTests, failed: report.numFailedTests + report.numRuntimeErrorTestSuites };
    },
    { env: jestEnv(cluster) },
  );
}

/** What the difference to a commit touches, in under three minutes. Stories in the browser are left to the whole. */
async function onlyChanged(cluster, commit) {
  const { since, files } = changedFiles(commit);
  console.log(`${files.length} files differ from ${since}.`);
  const code = files.filter((file) => /\.(?:ts|mjs|js|cjs)$/.test(file));
  const types = reached(files);
  await tools([
    ...(code.length > 0 ? [lint(code)] : []),
    ...(files.length > 0 ? [format(files)] : []),
    ...TYPES.filter(([place]) => types.has(place)).map(([, step]) => step),
    ...(code.length > 0 ? [LAYERS] : []),
  ]);
  const listed = spawnSync('node', [join(root, 'node_modules/jest/bin/jest.js'), '--listTests', '--findRelatedTests', ...code], {
    cwd: root,
    encoding: 'utf8',
    env: jestEnv(cluster),
  });
  const { chosen, left } = chooseTests(code.length === 0 ? [] : listed.stdout.split('\n').filter((line) => line.startsWith('/')), files);
  if (chosen.length > 0) await jest(cluster, ['--runTestsByPath', ...chosen]);
  if (left.length > 0)
    console.log(`\nNot run, since it would take too long: ${left.length} more test files that hang on the change, and the stories. npm test runs them.`);
}

/** Everything there is. */
async function everything(cluster) {
  await timed('tools that look at files', () => tools([lint(['.']), format(['.']), ...TYPES.map(([, step]) => step), LAYERS]));

  // The desks of the stories are made meanwhile: building and loading wait for disk and database half of the time.
  const prepared = timed('building and loading, beside Jest', () => prepareDesks(cluster));
  prepared.catch(() => undefined);
  await timed('Jest', () => jest(cluster, []));

  const owned = await prepared;
  // Two desks alike, each with its own book: stories of one file after the other, two files at a time.
  const desks = [];
  const mailboxes = [];
  const servers = [];
  for (const own of owned) {
    const exchange = join(dataFolder, `exchange-${desks.length + 1}`);
    rmSync(exchange, { recursive: true, force: true });
    // No supplier answers in the middle of a story that did not ask them to.
    const mailbox = join(dataFolder, `mailbox-${desks.length + 1}`);
    rmSync(mailbox, { recursive: true, force: true });
    const folder = join(dataFolder, `carriers-${desks.length + 1}`);
    rmSync(folder, { recursive: true, force: true });
    const carriers = await startCarriers({ folder, env: { NOCK_TODAY: TODAY }, freePort });
    servers.push(() => carriers.stop());
    stops.push(() => carriers.stop());
    const env = { NOCK_TODAY: TODAY, NOCK_STAND_IN_SECONDS: '3600', NOCK_MAILBOX: mailbox, NOCK_CARRIERS: carriers.urls };
    const server = await startServer({ urls: own, port: await freePort(0), env, exchange });
    servers.push(() => server.stop());
    stops.push(() => server.stop());
    desks.push(server.url);
    mailboxes.push(mailbox);
  }
  const storyReport = join(dataFolder, 'playwright.json');
  await timed('stories in the browser', () =>
    counted(
      'Stories',
      '@playwright/test/cli.js',
      ['test', '--config', 'e2e/playwright.config.ts'],
      storyReport,
      (report) => ({ passed: report.stats.expected + report.stats.flaky, failed: report.stats.unexpected }),
      {
        env: { ...process.env, NOCK_URL: desks.join(','), NOCK_MAILBOX: mailboxes.join(','), PLAYWRIGHT_JSON_OUTPUT_FILE: storyReport },
      },
    ),
  );

  console.log('\nSoak: a minute of random work with faults');
  for (const stop of servers) await stop();
  await timed('a minute of soak', async () => {
    const status = await spawnChild('node', [join(root, 'scripts/soak.mjs'), '1']);
    if (status === 0) count.passed++;
    else count.failed++;
  });
}

try {
  await installPackages();
  needChromium();
  mkdirSync(dataFolder, { recursive: true });
  console.log('Starting a database for the tests on loopback ...');
  const cluster = await startCluster('test', { fsync: false });
  if (cluster.started) stops.push(() => cluster.stop());

  const at = process.argv.indexOf('--changed');
  await (at < 0 ? everything(cluster) : onlyChanged(cluster, process.argv[at + 1]));
} catch (error) {
  console.error(`\nnpm test: ${error.message}`);
  count.failed++;
}
/** The slowest test files, so that whoever wants the whole quicker knows where to look. */
function slowest() {
  if (!existsSync(jestReport)) return [];
  const { testResults = [] } = JSON.parse(readFileSync(jestReport, 'utf8'));
  return testResults
    .map(({ name, startTime, endTime }) => [name.slice(root.length + 1), Math.round((endTime - startTime) / 1000)])
    .sort((a, b) => b[1] - a[1])
    .slice(0, 8);
}

if (spent.length > 0) {
  console.log('\nWhere the time went, in seconds:');
  for (const [name, seconds] of [...spent, ...slowest().map(([name, seconds]) => [`  ${name}`, seconds])])
    console.log(`${String(seconds).padStart(5)}  ${name}`);
}
process.once('exit', () => console.log(`\n${count.passed} passed, ${count.failed} failed`));
await end(count.failed === 0 ? 0 : 1);
