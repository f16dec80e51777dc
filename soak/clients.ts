// Random work by many clients against a running server, for as long as the parent process says; then what must hold is looked at.
// NOCK_URL: the server; NOCK_CLUSTER: the cluster as its superuser; NOCK_EXCHANGE: the folder of suppliers' files.
import { randomUUID } from 'node:crypto';
import { mkdirSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import type { Route } from '@nockwright/contract/shape';
import pg from 'pg';
import { rollDice } from '../demo/dice';
import { connect } from '../server/src/database';
import { deskActs, stockDesk } from '../server/test/desk-acts';
import { standingTemplate } from '../server/test/standing';
import { check } from './check';
import { LiveEar } from './live-ear';
import { RemoteDesk } from './remote-desk';

const CLIENTS = 16;
const EARS = 3;
/** Refusals that say that somebody else was first, or that it cannot be so. */
const ANSWERS = [200, 404, 409, 422];

interface Told {
  readonly act: 'make' | 'begin' | 'stop' | 'check';
  readonly patienceMs?: number;
}

const need = (name: string): string => {
  const value = process.env[name];
  if (!value) throw new Error(`${name} is not set; npm run soak sets it`);
  return value;
};
const tell = (said: object) => process.send!(said);

/** The database that the work begins with. */
async function make(): Promise<void> {
  const admin = new pg.Client({ connectionString: need('NOCK_CLUSTER') });
  await admin.connect();
  const template = await standingTemplate(admin, need('NOCK_CLUSTER'));
  await admin.query('drop database if exists soak with (force)');
  await admin.query(`create database soak template ${template}`);
  await admin.query('alter database soak set jit = off');
  await admin.end();
}

const url = new URL(need('NOCK_CLUSTER'));
url.pathname = '/soak';
const { db } = connect(url.href, 6);
const desk = new RemoteDesk(need('NOCK_URL'), db);
let stopping = false;
let work: Promise<unknown> = Promise.resolve();
const ears: LiveEar[] = [];
let done = 0;

async function attempt<P, Q, B, R>(route: Route<P, Q, B, R>, input: { params?: P; body?: B }): Promise<R | null> {
  const { status, reply, problem } = await desk.send('mona', route, input);
  if (!ANSWERS.includes(status)) desk.wrong.push(`${route.method} ${route.path}: ${status} ${problem.detail}`);
  return status === 200 ? reply : null;
}

/** Puts a supplier's file where they put theirs, whole at once. */
async function file(supplier: string, content: string): Promise<void> {
  const folder = join(need('NOCK_EXCHANGE'), encodeURIComponent(supplier), 'in');
  mkdirSync(folder, { recursive: true });
  const name = `${randomUUID()}.xml`;
  writeFileSync(join(folder, `.${name}.writing`), content);
  renameSync(join(folder, `.${name}.writing`), join(folder, name));
}

async function begin(): Promise<void> {
  await db.updateTable('supplier').set({ exchanges: true }).where('code', '=', 'SUP').execute();
  await stockDesk(desk);
  for (let at = 0; at < EARS; at++) ears.push(new LiveEar(need('NOCK_URL'), () => desk.session()));
  const act = deskActs(desk, attempt, file);
  work = Promise.all(
    Array.from({ length: CLIENTS }, async (_, me) => {
      const dice = rollDice((Date.now() % 1_000_000) + me);
      while (!stopping) {
        // What is read for a next step may be cut off with the database itself: then another step is taken.
        await act(dice).catch((error: Error) => {
          const { code = '' } = error as { code?: string };
          if (!/^(?:57P|08|ECONN|EPIPE)/.test(code) && !/connection/i.test(error.message)) desk.wrong.push(error.stack ?? error.message);
        });
        done++;
      }
    }),
  );
}

process.on('message', (told: Told) => {
  const act = async () => {
    if (told.act === 'make') await make();
    else if (told.act === 'begin') await begin();
    else if (told.act === 'stop') {
      stopping = true;
      await work;
      tell({ done: told.act, steps: done });
      return;
    } else {
      const findings = await check(desk, ears, need('NOCK_TODAY'), told.patienceMs ?? 0);
      for (const ear of ears) ear.close();
      tell({ done: told.act, ...findings });
      return;
    }
    tell({ done: told.act });
  };
  act().catch((error: Error) => tell({ done: told.act, failed: error.stack }));
});
tell({ done: 'ready' });
