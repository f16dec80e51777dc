// What the difference to a commit touches: files, the projects whose types hang on them, and the tests worth running first.
import { spawnSync } from 'node:child_process';
import { existsSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join, relative } from 'node:path';
import { dataFolder, root } from './packages.mjs';

/** Which projects a change of one reaches. */
const REACHES = {
  core: ['core', 'contract', 'server', 'web'],
  contract: ['contract', 'server', 'web'],
  server: ['server'],
  web: ['web'],
  demo: ['server'],
  e2e: ['e2e'],
};
/** What the chosen tests may take together, by their last known times: two of them run at a time. */
const MOST_MS = 100_000;
/** Of a test that was never timed. */
const UNKNOWN_MS = 12_000;

const timesFile = join(dataFolder, 'jest-times.json');
const git = (...words) => spawnSync('git', words, { cwd: root, encoding: 'utf8' }).stdout.split('\n').filter(Boolean);

/** Files that differ from `commit`, or from the last one; with nothing uncommitted, what the last commit changed. */
export function changedFiles(commit) {
  const dirty = git('status', '--porcelain').length > 0;
  const since = commit ?? (dirty ? 'HEAD' : 'HEAD~1');
  const files = new Set([...git('diff', '--name-only', since), ...git('ls-files', '--others', '--exclude-standard')]);
  return { since, files: [...files].filter((file) => existsSync(join(root, file))) };
}

/** The projects whose types may have changed. */
export function reached(files) {
  return new Set(files.flatMap((file) => REACHES[file.split('/')[0]] ?? []));
}

/** Keeps how long each test file took, from Jest's report. */
export function keepTimes(report) {
  const times = knownTimes();
  for (const { name, startTime, endTime } of report.testResults ?? []) times[relative(root, name)] = endTime - startTime;
  writeFileSync(timesFile, JSON.stringify(times));
}

function knownTimes() {
  return existsSync(timesFile) ? JSON.parse(readFileSync(timesFile, 'utf8')) : {};
}

/**
 * Of the tests that hang on changed files, as many as fit: those that changed, then those beside a changed file, then the
 * others, the quick ones first. `left` are not run: `npm test` runs them.
 */
export function chooseTests(related, files) {
  const times = knownTimes();
  const folders = new Set(files.map((file) => dirname(file)));
  const own = new Set(files);
  const rank = (file) => (own.has(file) ? 0 : folders.has(dirname(file)) ? 1 : 2);
  const sorted = related
    .map((file) => relative(root, file))
    .map((file) => ({ file, rank: rank(file), time: times[file] ?? UNKNOWN_MS }))
    .sort((a, b) => a.rank - b.rank || a.time - b.time);
  const [chosen, left] = [[], []];
  let total = 0;
  for (const { file, time, rank: near } of sorted) {
    if (near === 0 || total + time <= MOST_MS) {
      chosen.push(file);
      total += time;
    } else left.push(file);
  }
  return { chosen, left };
}
