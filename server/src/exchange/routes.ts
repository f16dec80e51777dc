import { whereWords } from '@nockwright/core/serials';
import { exchangeRoutes, type Finding } from '@nockwright/contract/exchange';
import type { Context, Hono } from 'hono';
import { streamSSE } from 'hono/streaming';
import { sql } from 'kysely';
import { findCustomers } from '../customers';
import { escapeLike, hasWord, type Db } from '../database';
import type { LiveFeed } from '../events';
import type { Services } from '../http/context';
import { loadSerials, whereOf } from '../serials';
import { mountQuery } from '../http/mount';
import { findItems } from '../items';
import { orderBookTask } from './order-book';
import { Refusal } from '../http/refusal';
import { currentUser, SESSION_TOPIC, sessionHash, sessionTopic } from '../sessions';

const MOST_OF_A_KIND = 5;
const HEARTBEAT_MS = 20_000;

export function mountExchange(app: Hono, services: Services, feed: LiveFeed): void {
  mountQuery(app, services, exchangeRoutes.orderBook, async ({ now, user }) => {
    const book = await services.work.run(orderBookTask, { url: services.databaseUrl, now }, user.id);
    return new Response(book, { headers: { 'Content-Type': 'application/json' } });
  });
  mountQuery(app, services, exchangeRoutes.find, ({ db, now }, { query }) => find(db, now.today, query.q ?? ''));
  app.get(`/api${exchangeRoutes.health.path}`, (c) => c.json({ status: 'ok' }));
  app.get(`/api${exchangeRoutes.ready.path}`, async (c) => {
    await sql`select 1`.execute(services.db);
    return c.json({ status: 'ok' });
  });
  app.get(`/api${exchangeRoutes.live.path}`, async (c) => {
    await currentUser(c, services, exchangeRoutes.live.roles);
    const own = sessionTopic(sessionHash(c, services.secureCookies));
    return streamSSE(c, async (stream) => {
      let over = false;
      let wake: () => void = () => undefined;
      const end = () => {
        over = true;
        wake();
      };
      const unsubscribe = feed.subscribe((topics) => {
        if (topics.includes(own)) return end();
        // Sessions are nobody's business but their own.
        const told = topics.filter((topic) => !topic.startsWith(SESSION_TOPIC));
        if (told.length > 0) void stream.writeSSE({ event: 'changed', data: JSON.stringify(told) });
      });
      stream.onAbort(end);
      void feed.ended.then(end);
      await stream.writeSSE({ event: 'open', data: '[]' });
      // A line now and then tells both ends that the other is still there, and the session is looked at.
      for (;;) {
        await Promise.race([stream.sleep(HEARTBEAT_MS), new Promise<void>((resolve) => (wake = resolve))]);
        if (over || stream.aborted || (await hasEnded(c, services))) break;
        await stream.writeSSE({ event: 'alive', data: '[]' });
      }
      unsubscribe();
    });
  });
}

/** Whether the session of a stream has ended; where the database is away, nobody can say. */
async function hasEnded(c: Context, services: Services): Promise<boolean> {
  try {
    await currentUser(c, services, exchangeRoutes.live.roles);
    return false;
  } catch (error) {
    return error instanceof Refusal;
  }
}

/** Orders, customers, items and purchase orders that match a fragment. */
async function find(db: Db, today: string, q: string): Promise<Finding[]> {
  const fragment = q.trim();
  if (fragment === '') return [];
  const like = `${escapeLike(fragment.toLowerCase())}%`;
  const orders = await db
    .selectFrom('sales_order')
    .innerJoin('customer', 'customer.id', 'sales_order.customer_id')
    .innerJoin('order_standing', 'order_standing.order_id', 'sales_order.id')
    .select(['sales_order.id', 'sales_order.kind', 'sales_order.number', 'customer.name', 'sales_order.po_number'])
    // By the index of the list, then by what of it is looked for here.
    .where(hasWord('order_standing.search', fragment.toLowerCase()))
    .where(({ eb, or }) => or([eb(sql`lower(sales_order.number)`, 'like', like), eb(sql`lower(sales_order.po_number)`, 'like', like)]))
    .where('sales_order.state', '<>', 'discarded')
    .orderBy('sales_order.id', 'desc')
    .limit(MOST_OF_A_KIND)
    .execute();
  const purchases = await db
    .selectFrom('purchase_order')
    .innerJoin('supplier', 'supplier.code', 'purchase_order.supplier')
    .select(['purchase_order.id', 'purchase_order.number', 'supplier.name', 'purchase_order.state'])
    .where(sql`lower(purchase_order.number)`, 'like', like)
    .orderBy('purchase_order.id', 'desc')
    .limit(MOST_OF_A_KIND)
    .execute();
  const suppliers = await db
    .selectFrom('supplier')
    .select(['code', 'name'])
    .where(sql`lower(name)`, 'like', `%${like}`)
    .orderBy('name')
    .limit(MOST_OF_A_KIND)
    .execute();
  const customers = (await findCustomers(db, fragment)).slice(0, MOST_OF_A_KIND);
  const items = (await findItems(db, today, { search: fragment })).slice(0, MOST_OF_A_KIND);
  const serials = await loadSerials(db, sql`upper(s.serial) like ${like.toUpperCase()}`, MOST_OF_A_KIND);
  return [
    ...orders.map((row): Finding => ({
      kind: 'order',
      id: row.id,
      key: row.number ?? String(row.id),
      label: row.number === null ? `${row.kind === 'quote' ? 'Quote draft' : 'Draft'} ${row.id}` : `${row.kind === 'quote' ? 'Quote' : 'Order'} ${row.number}`,
      hint: [row.name, row.po_number].filter(Boolean).join(', '),
    })),
    ...purchases.map((row): Finding => ({ kind: 'purchase', id: row.id, key: row.number, label: `Purchase ${row.number}`, hint: `${row.name}, ${row.state}` })),
    ...items.map((row, at): Finding => ({ kind: 'item', id: at + 1, key: row.code, label: row.code, hint: row.description })),
    ...customers.map((row): Finding => ({ kind: 'customer', id: row.id, key: row.number, label: row.name, hint: `${row.number}, ${row.town}` })),
    ...suppliers.map((row, at): Finding => ({ kind: 'supplier', id: at + 1, key: row.code, label: row.name, hint: 'supplier' })),
    ...serials.map((row): Finding => ({
      kind: 'serial',
      id: row.id,
      key: row.serial,
      label: `Serial number ${row.serial}`,
      hint: `${row.item}, ${whereWords(whereOf(row))}`,
    })),
  ];
}
