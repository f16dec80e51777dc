import type { UserId } from '@nockwright/core/ids';
import { createHash } from 'node:crypto';
import { seenBy, type AnyRoute, type Route, type Shape } from '@nockwright/contract/shape';
import type { Context, Hono } from 'hono';
import { currentUser, sessionHash } from '../sessions';
import type { Now } from '../clock';
import type { Trx } from '../database';
import type { CommandContext, QueryContext, Services } from './context';
import { Refusal } from './refusal';
import { hasOnlyTexts, tooMuchJson } from './json-size';
import type { Turns } from './turns';

interface Input<P, Q, B> {
  readonly params: P;
  readonly query: Q;
  readonly body: B;
}

/** What is still to be asked of others once the database has been read: no connection waits for them. */
export class Later<R> {
  constructor(readonly ask: () => Promise<R>) {}
}

/** Mounts a route that only reads. It sees one state of the database, however many statements it takes. */
export function mountQuery<P, Q, B, R>(
  app: Hono,
  services: Services,
  route: Route<P, Q, B, R>,
  answer: (context: QueryContext, input: Input<P, Q, B>) => Promise<R | Response | Later<R>>,
  /** What is brought up to date before it is read. */
  before?: (services: Services, now: Now, user: number) => Promise<void>,
): void {
  const { db, clock } = services;
  const seals = route.reply?.seals ?? [];
  app.get(toHonoPath(route.path), async (c) => {
    const user = await currentUser(c, services, route.roles);
    const session = sessionHash(c, services.secureCookies);
    const input = await readInput(c, route as unknown as AnyRoute);
    const now = clock();
    await before?.(services, now, user.id);
    const read = await db
      .transaction()
      .setIsolationLevel('repeatable read')
      .setAccessMode('read only')
      .execute((trx) => answer({ db: trx, user, now, session }, input as Input<P, Q, B>));
    const reply = read instanceof Later ? await read.ask() : read;
    return reply instanceof Response ? reply : c.json(seenBy(user.role, seals, reply) as object);
  });
}

/**
 * Mounts a route that changes something: one transaction, done once for each idempotency key of a user. What the role of whoever
 * asks does not see is taken out of the answer here, and nowhere else. A request sent again gets the answer of the first; one that was refused left nothing behind and is tried anew.
 */
export function mountCommand<P, Q, B, R>(
  app: Hono,
  services: Services,
  route: Route<P, Q, B, R>,
  execute: (context: CommandContext & { readonly session: string }, input: Input<P, Q, B>) => Promise<R>,
  /** Of what takes long: whose turn it is, before a connection is taken. */
  turns?: Turns,
): void {
  const { db, clock, jobs, publicUrl } = services;
  const seals = route.reply?.seals ?? [];
  app.on(route.method, toHonoPath(route.path), async (c) => {
    const user = await currentUser(c, services, route.roles);
    const session = sessionHash(c, services.secureCookies);
    const key = readKey(c);
    const input = await readInput(c, route as unknown as AnyRoute);
    const hash = createHash('sha256')
      .update(JSON.stringify([route.method, c.req.path, input], withoutSecrets))
      .digest('hex');
    const act = () =>
      retryOnDeadlock(async () => {
        const later: (() => void)[] = [];
        const answer = await db.transaction().execute(async (trx) => {
          const known = await claimKey(trx, user.id, key, hash);
          if (known) return known.reply;
          const done = await execute({ trx, user, session, now: clock(), jobs, publicUrl, afterCommit: (run) => later.push(run) }, input as Input<P, Q, B>);
          await trx
            .updateTable('idempotency')
            .set({ reply: JSON.stringify(done) })
            .where('user_id', '=', user.id)
            .where('key', '=', key)
            .execute();
          return done;
        });
        for (const run of later) run();
        return answer;
      }, services.log);
    const reply = await (turns ? turns.take(user.id, act) : act());
    return c.json(seenBy(user.role, seals, reply) as object);
  });
}

/** What must not be guessed from what is kept of a request. */
const SECRETS = new Set(['password', 'old', 'code']);

function withoutSecrets(name: string, value: unknown): unknown {
  return SECRETS.has(name) ? '' : value;
}

/** Null where the key is new. A request with the same key that is under way is waited for: the primary key blocks it. */
async function claimKey(trx: Trx, userId: UserId, key: string, hash: string): Promise<{ reply: unknown } | null> {
  const { numInsertedOrUpdatedRows } = await trx
    .insertInto('idempotency')
    .values({ user_id: userId, key, request_hash: hash, reply: null })
    .onConflict((conflict) => conflict.doNothing())
    .executeTakeFirstOrThrow();
  if (numInsertedOrUpdatedRows === 1n) return null;
  const known = await trx
    .selectFrom('idempotency')
    .select(['request_hash', 'reply'])
    .where('user_id', '=', userId)
    .where('key', '=', key)
    .executeTakeFirstOrThrow();
  if (known.request_hash !== hash)
    throw new Refusal('invalid', 'This Idempotency-Key was used for another request.', [
      { field: 'header.Idempotency-Key', message: 'was used for another request' },
    ]);
  return { reply: known.reply };
}

const UUID = /^[0-9a-f]{8}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{4}-[0-9a-f]{12}$/i;

function readKey(c: Context): string {
  const key = c.req.header('Idempotency-Key');
  if (key && UUID.test(key)) return key.toLowerCase();
  throw new Refusal('invalid', 'A change needs an Idempotency-Key.', [
    { field: 'header.Idempotency-Key', message: key ? `expected a UUID, got ${key.slice(0, 60)}` : 'missing' },
  ]);
}

/** Nobody reads more of them. */
const MOST_FAULTS = 20;

async function readInput(c: Context, route: AnyRoute): Promise<{ params: unknown; query: unknown; body: unknown }> {
  const body = route.body ? await readJson(c) : undefined;
  const faults: { field: string; message: string }[] = [];
  const check = (place: string, shape: Shape<unknown> | null, value: unknown) => {
    if (!shape) return undefined;
    const { error, value: read } = shape.schema.validate(value, { abortEarly: false, convert: place !== 'body', errors: { label: false } });
    for (const { path, message, context } of (error?.details ?? []).slice(0, MOST_FAULTS)) {
      const field = [place, ...path]
        .map((step) => (typeof step === 'number' ? `[${step}]` : `.${step}`))
        .join('')
        .slice(1);
      faults.push({ field, message: context?.value === undefined ? message : `${message}, got ${JSON.stringify(context.value)?.slice(0, 80)}` });
    }
    return read as unknown;
  };
  const input = {
    params: check('path', route.params, c.req.param()),
    query: check('query', route.query, c.req.query()),
    body: check('body', route.body, body),
  };
  if (faults.length > 0) throw new Refusal('invalid', faults.map(({ field, message }) => `${field}: ${message}`).join('; '), faults);
  return input;
}

async function readJson(c: Context): Promise<unknown> {
  const kind = c.req.header('Content-Type') ?? '';
  if (!/^application\/json\b/i.test(kind))
    throw new Refusal('bad-request', `Expected a body of application/json, got ${kind || 'none'}.`, [{ field: 'body', message: 'expected application/json' }]);
  const text = await c.req.text();
  const refuse = (message: string) => new Refusal('invalid', `body: ${message}`, [{ field: 'body', message }]);
  // Before anybody looks at what it says.
  const tooMuch = tooMuchJson(text);
  if (tooMuch !== null) throw refuse(tooMuch);
  try {
    const value: unknown = JSON.parse(text);
    if (!hasOnlyTexts(value)) throw refuse('has a text with characters that are none');
    return value;
  } catch (error) {
    if (error instanceof Refusal) throw error;
    throw new Refusal('bad-request', `The body is not JSON: ${(error as Error).message}`, [{ field: 'body', message: 'not JSON' }]);
  }
}

const ATTEMPTS = 5;
/** A wait before each further attempt, longer each time and never the same for two: else they meet again. */
const PAUSE_MS = 20;

/** PostgreSQL ends one of two transactions that wait for each other; it is done again, unseen by the user. */
async function retryOnDeadlock<R>(run: () => Promise<R>, log: Services['log']): Promise<R> {
  for (let attempt = 1; ; attempt++) {
    try {
      return await run();
    } catch (error) {
      const code = (error as { code?: string }).code;
      if (code !== '40P01' && code !== '40001') throw error;
      log.warn({ code, attempt }, 'two transactions waited for each other');
      if (attempt === ATTEMPTS) throw new Refusal('busy', 'Others change the same things just now. Nothing was changed: try again in a moment.');
      await new Promise((resolve) => setTimeout(resolve, PAUSE_MS * 2 ** attempt * Math.random()));
    }
  }
}

function toHonoPath(path: string) {
  return `/api${path.replace(/\{(\w+)\}/g, ':$1')}`;
}
