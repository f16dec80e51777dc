// Installs the project's npm packages when they are missing or the lock file has changed.
import { spawnSync } from 'node:child_process';
import { createHash } from 'node:crypto';
import { existsSync, mkdirSync, readFileSync, writeFileSync } from 'node:fs';
import { dirname, join } from 'node:path';
import { fileURLToPath } from 'node:url';

export const root = join(dirname(fileURLToPath(import.meta.url)), '..', '..');
export const dataFolder = join(root, '.data');

/** `quiet`: say nothing on standard output, which belongs to the command that calls. */
export async function installPackages({ quiet = false } = {}) {
  const lock = createHash('sha256')
    .update(readFileSync(join(root, 'package-lock.json')))
    .digest('hex');
  const stamp = join(root, 'node_modules', '.nockwright-lock');
  if (existsSync(stamp) && readFileSync(stamp, 'utf8') === lock) return;
  if (!quiet) console.log('Installing npm packages (about two minutes the first time) ...');
  const run = spawnSync('npm', ['ci', '--no-audit', '--no-fund'], { cwd: root, stdio: ['ignore', quiet ? 'ignore' : 'inherit', 'inherit'] });
  if (run.status !== 0) throw new Error('npm ci failed; its output above says why');
  mkdirSync(dirname(stamp), { recursive: true });
  writeFileSync(stamp, lock);
}
