// npm run bench: every measurement, as a table of ratios taken in one run.
import { installPackages, root } from './lib/packages.mjs';
import { run } from './lib/steps.mjs';

try {
  await installPackages();
  await run('node', ['--import', 'tsx', `${root}/bench/promise.ts`]);
} catch (error) {
  console.error(`\nnpm run bench: ${error.message}`);
  process.exit(1);
}
