// Faults that are thrown at a working desk. Each gives a word on what was done.
import { mkdirSync, writeFileSync } from 'node:fs';
import { randomUUID } from 'node:crypto';
import { join } from 'node:path';

const pause = (seconds) => new Promise((resolve) => setTimeout(resolve, seconds * 1000));

/** Files as a supplier's broken program writes them. */
const BROKEN_FILES = [
  () => '',
  () => 'not xml at all',
  () => '<Order'.repeat(100),
  () => `${'<a>'.repeat(120_000)}${'</a>'.repeat(120_000)}`,
  () => '<?xml version="1.0"?><!DOCTYPE a [<!ENTITY x "y">]><a>&x;</a>',
  () =>
    `<?xml version="1.0"?><OrderResponse xmlns="urn:oasis:names:specification:ubl:schema:xsd:OrderResponse-2"><ID>${'9'.repeat(900_000)}</ID></OrderResponse>`,
  () => '\ufeff<OrderResponse/>',
];

/** The faults, by name. `admin`: gives a connection as the cluster's superuser; `server()`: the running server; `random`: of a die. */
export function faults({ cluster, admin, server, mail, exchange }) {
  let brokenFile = 0;
  const away = (seconds) => async () => {
    cluster.crash();
    await pause(seconds);
    cluster.run();
    return `the database was away for ${seconds} s`;
  };
  const mood = (name, seconds) => async () => {
    mail.state.mood = name;
    await pause(seconds);
    mail.state.mood = 'takes';
    return `the mail server: ${name}, for ${seconds} s`;
  };
  /** A server that has just been stopped may be away still. */
  const signal = (name, words) => {
    try {
      process.kill(server().pid, name);
      return words;
    } catch {
      return `${words}, while it was away`;
    }
  };
  return {
    backends: async () => {
      const client = await admin();
      const { rowCount } = await client.query(
        "select pg_terminate_backend(pid) from pg_stat_activity where datname = 'soak' and pid <> pg_backend_pid() and random() < 0.6",
      );
      await client.end();
      return `${rowCount} connections to the database were cut`;
    },
    blink: away(1),
    crash: away(10),
    outage: away(60),
    server: async () => signal('SIGKILL', 'the server was killed'),
    stop: async () => signal('SIGTERM', 'the server was told to stop'),
    busyMail: mood('busy', 5),
    hangingMail: mood('hangs', 5),
    rudeMail: mood('cuts off', 5),
    files: async () => {
      const folder = join(exchange, 'SUP', 'in');
      mkdirSync(folder, { recursive: true });
      for (let at = 0; at < 3; at++) writeFileSync(join(folder, `${randomUUID()}.xml`), BROKEN_FILES[brokenFile++ % BROKEN_FILES.length]());
      return 'a supplier left broken files';
    },
  };
}
