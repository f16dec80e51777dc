// The computation of the promise on an order book file:
//   npm run --silent promise -- [--mode keep|resequence] FILE
import { spawnSync } from 'node:child_process';
import { installPackages, root } from './lib/packages.mjs';

await installPackages({ quiet: true });
const run = spawnSync(process.execPath, ['--import', 'tsx', `${root}/core/bin/promise.ts`, ...process.argv.slice(2)], { stdio: 'inherit' });
process.exit(run.status ?? 1);
