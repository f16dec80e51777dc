import type { Route } from '@nockwright/contract/shape';
import { promiseBook } from '@nockwright/core/promise';
import { rollDice } from '../../demo/dice';
import { createClock } from '../src/clock';
import type { CommandContext } from '../src/http/context';
import { Refusal } from '../src/http/refusal';
import { loadBook } from '../src/promise';
import { NOBODY, takeAnswer } from '../src/supply/commands';
import { deskActs, stockDesk } from './desk-acts';
import { brokenInvariants } from './invariants';
import { TestDesk, TODAY } from './test-desk';

const CLIENTS = 8;
/** Of each client; a longer run is worth its time now and then: NOCK_STEPS=400 is some thousands in all. */
const STEPS = Number(process.env['NOCK_STEPS'] ?? 36);
/** Steps after which the books are looked at in a longer run. */
const LOOK = 50;
/** PostgreSQL gave up one of two that waited for each other: the folder would try again. */
const GIVEN_UP = '40P01';

let desk: TestDesk;
beforeAll(async () => {
  desk = await TestDesk.open();
  await stockDesk(desk);
});
afterAll(() => desk.close());

const statuses = new Map<number, number>();

/** Sends a command; that somebody else was first is an answer, an error of ours is not. */
async function attempt<P, Q, B, R>(route: Route<P, Q, B, R>, input: { params?: P; body?: B }): Promise<R | null> {
  const { status, reply, problem } = await desk.send('mona', route, input);
  statuses.set(status, (statuses.get(status) ?? 0) + 1);
  if (![200, 404, 409, 422].includes(status)) throw new Error(`${route.method} ${route.path}: ${status} ${problem.detail}`);
  return status === 200 ? reply : null;
}

/** A file as the exchange folder takes it: acted on in one transaction, or refused. */
async function file(supplier: string, content: string): Promise<void> {
  const { db, clock, jobs, publicUrl } = desk.services;
  try {
    await db.transaction().execute((trx) => {
      const context: CommandContext = { trx, user: NOBODY, now: clock(), jobs, publicUrl, afterCommit: () => undefined };
      return takeAnswer(context, { supplier, name: 'random.xml', content });
    });
  } catch (error) {
    if (!(error instanceof Refusal) && (error as { code?: string }).code !== GIVEN_UP) throw error;
  }
}

test('eight clients do everything a desk does, at once, and the books stay in order', async () => {
  const act = deskActs(desk, attempt, file);
  await Promise.all(
    Array.from({ length: CLIENTS }, async (_, me) => {
      const dice = rollDice(1000 + me);
      for (let step = 1; step <= STEPS; step++) {
        if (me === 0 && step % LOOK === 0) expect(await brokenInvariants(desk.db)).toEqual([]);
        await act(dice);
      }
    }),
  );
  expect(statuses.get(200)).toBeGreaterThan(100);
  expect(await brokenInvariants(desk.db)).toEqual([]);
  // Promises may have become late by a slip; none may stand without supply.
  const { book } = await loadBook(desk.db, createClock(TODAY)());
  expect(promiseBook(book).atRisk.filter((row) => row.arrives === null)).toEqual([]);
});
