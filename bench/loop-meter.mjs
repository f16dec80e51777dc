// Loaded into a server before its own program: on SIGUSR2 it writes how long the event loop was kept from its next turn, at worst, since the last time.
import { writeFileSync } from 'node:fs';
import { monitorEventLoopDelay } from 'node:perf_hooks';

const RESOLUTION_MS = 5;
const meter = monitorEventLoopDelay({ resolution: RESOLUTION_MS });
meter.enable();
process.on('SIGUSR2', () => {
  const [worst, usual] = [meter.max, meter.percentile(99)].map((nanoseconds) => nanoseconds / 1e6 - RESOLUTION_MS);
  writeFileSync(process.env.NOCK_LOOP_FILE, JSON.stringify({ worst, usual }));
  meter.reset();
});
