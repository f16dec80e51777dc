// npm run demo:reset: throws the data of this project away and loads the demo anew.
import { rmSync } from 'node:fs';
import { join } from 'node:path';
import { dropDatabase, ensureDatabase, startCluster } from './lib/cluster.mjs';
import { dataFolder, installPackages } from './lib/packages.mjs';
import { build, loadDemo, onEnd, prepareDatabase } from './lib/steps.mjs';

let cluster;
const end = onEnd(() => (cluster?.started ? cluster.stop() : undefined));
try {
  await installPackages();
  cluster = await startCluster('app');
  await build();
  await dropDatabase(cluster, 'nockwright');
  const urls = await ensureDatabase(cluster, 'nockwright');
  await prepareDatabase(urls);
  // Answers to orders that are gone would only be refused.
  for (const folder of ['exchange', 'carriers']) rmSync(join(dataFolder, folder), { recursive: true, force: true });
  console.log('Loading the demo ...');
  await loadDemo(urls);
  console.log('The demo is loaded. A server that is running shows it when its pages are loaded again.');
  await end(0);
} catch (error) {
  console.error(`\nnpm run demo:reset: ${error.message}`);
  await end(1);
}
