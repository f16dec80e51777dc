import { serve } from '@hono/node-server';
import { createClock } from './clock';
import { CarrierStandIn } from './stand-ins';

/** A carrier that is not there, as a process of its own: `NOCK_CARRIER` is its code and name, `NOCK_PORT` where it answers. */
function main() {
  const [code = 'HARROW', name = code] = (process.env['NOCK_CARRIER'] ?? '').split('=');
  const clock = createClock(process.env['NOCK_TODAY']);
  const { app } = new CarrierStandIn({
    code,
    name,
    file: process.env['NOCK_CARRIER_FILE'] ?? null,
    clock: () => clock().instant,
    seconds: Number(process.env['NOCK_CARRIER_SECONDS'] ?? 0),
  });
  serve({ fetch: app.fetch, port: Number(process.env['NOCK_PORT']), hostname: '127.0.0.1' });
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, () => process.exit(0));
}

main();
