import { randomUUID } from 'node:crypto';
import type { OrderView } from '@nockwright/contract/orders';
import { orderRoutes } from '@nockwright/contract/orders';
import type { Problem, Route } from '@nockwright/contract/shape';
import { shortageRoutes, type RouteWish, type ShortageRow } from '@nockwright/contract/shortages';
import { shippingRoutes } from '@nockwright/contract/shipping';
import { supplyRoutes } from '@nockwright/contract/supply';
import type { Db } from '../src/database';
import { PASSWORD, type USERS } from './standing';

export type Login = (typeof USERS)[number][0];

export interface Sent<R> {
  readonly status: number;
  readonly reply: R;
  readonly problem: Problem;
}

/** A body that is sent as it stands, JSON or not. */
export class RawBody {
  constructor(readonly text: string) {}
}

/** What people do at a desk, said as requests of the contract; how a request gets there is up to who extends it. */
export abstract class DeskClient {
  private readonly cookies = new Map<Login, string>();

  /** `db`: the books themselves, to look into and to put goods on the shelf. */
  constructor(readonly db: Db) {}

  protected abstract fetch(path: string, init: RequestInit): Promise<Response>;

  /** What the server said of its own last fault, as far as it can be known from here. */
  protected lastFault(): string {
    return '';
  }

  /** Sends a request of the contract as a user and gives whatever comes back. */
  /** Whatever is done after each request. */
  protected async answered(): Promise<void> {}

  async send<P, Q, B, R>(login: Login, route: Route<P, Q, B, R>, input: { params?: P; query?: Q; body?: B; key?: string } = {}): Promise<Sent<R>> {
    const path = route.path.replace(/\{(\w+)\}/g, (_, part: string) => encodeURIComponent(String((input.params as Record<string, unknown>)[part])));
    const query = new URLSearchParams(Object.entries(input.query ?? {}).map(([name, value]) => [name, String(value)]));
    const response = await this.request(
      login,
      route.method,
      `/api${path}${query.size > 0 ? `?${query.toString()}` : ''}`,
      route.body ? (input.body ?? {}) : undefined,
      input.key,
    );
    const value: unknown = await response.json();
    await this.answered();
    // No test expects a fault of our own; the log says what it was.
    if (response.status === 500) throw new Error(`${route.method} ${path}: 500 ${this.lastFault()}`);
    return { status: response.status, reply: value as R, problem: value as Problem };
  }

  /** Sends a request that must be done. */
  async call<P, Q, B, R>(login: Login, route: Route<P, Q, B, R>, input: { params?: P; query?: Q; body?: B; key?: string } = {}): Promise<R> {
    const { status, reply, problem } = await this.send(login, route, input);
    if (status !== 200) throw new Error(`${route.method} ${route.path}: ${status} ${problem.detail ?? problem.title}`);
    return reply;
  }

  async request(
    login: Login | null,
    method: string,
    path: string,
    body?: unknown,
    key: string = randomUUID(),
    headers: Record<string, string> = {},
  ): Promise<Response> {
    const cookie = login ? await this.cookieOf(login) : undefined;
    return this.fetch(path, {
      method,
      headers: {
        'Idempotency-Key': key,
        ...(body === undefined ? {} : { 'Content-Type': 'application/json' }),
        ...(cookie ? { Cookie: cookie } : {}),
        ...headers,
      },
      ...(body === undefined ? {} : { body: body instanceof RawBody ? body.text : JSON.stringify(body) }),
    });
  }

  async logIn(login: string, password: string = PASSWORD): Promise<Response> {
    return this.fetch('/api/login', { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify({ login, password }) });
  }

  private async cookieOf(login: Login): Promise<string> {
    const known = this.cookies.get(login);
    if (known) return known;
    const response = await this.logIn(login);
    const cookie = response.headers.get('Set-Cookie')!.split(';')[0]!;
    this.cookies.set(login, cookie);
    return cookie;
  }

  /** A draft with lines of item, quantity and unit. */
  async draft(lines: readonly (readonly [item: string, quantity: string, unit?: string])[], login: Login = 'ida', customer = 1): Promise<OrderView> {
    let order = await this.call(login, orderRoutes.createOrder, { body: { customer } });
    for (const [item, quantity, unit] of lines)
      order = await this.call(login, orderRoutes.addLine, { params: { order: order.id }, body: { item, quantity, ...(unit ? { unit } : {}) } });
    return order;
  }

  /** What is short, most value first. */
  async shortages(login: Login = 'ida'): Promise<readonly ShortageRow[]> {
    return (await this.call(login, shortageRoutes.listShortages, { query: { most: 2000 } })).rows;
  }

  async release(order: OrderView, login: Login = 'ida'): Promise<OrderView> {
    return this.call(login, orderRoutes.releaseOrder, { params: { order: order.id }, body: seenOf(order) });
  }

  async order(lines: readonly (readonly [item: string, quantity: string, unit?: string])[], login: Login = 'ida', customer = 1): Promise<OrderView> {
    return this.release(await this.draft(lines, login, customer), login);
  }

  async route(order: OrderView, lineNo: number, kind: 'backorder' | 'special_order' | 'drop_ship', quantity: string, supplier?: string): Promise<OrderView> {
    return this.call('ida', orderRoutes.chooseRoute, {
      params: { order: order.id, line: order.lines[lineNo - 1]!.id },
      body: { parts: [{ kind, quantity, ...(supplier ? { supplier } : {}) }] },
    });
  }

  /** Takes ways for a line, several as one route. */
  async take(order: OrderView, lineNo: number, ...parts: readonly RouteWish[]): Promise<OrderView> {
    return this.call('ida', orderRoutes.chooseRoute, { params: { order: order.id, line: order.lines[lineNo - 1]!.id }, body: { parts } });
  }

  /** Takes a route of a line back. */
  async undo(order: OrderView, lineNo: number, at = 0, supplier?: 'cancel' | 'keep'): Promise<OrderView> {
    const line = order.lines[lineNo - 1]!;
    return this.call('ida', orderRoutes.undoRoute, {
      params: { order: order.id, line: line.id, route: line.routes[at]!.id },
      body: supplier ? { supplier } : {},
    });
  }

  read(order: { readonly id: number }): Promise<OrderView> {
    return this.call('ida', orderRoutes.readOrder, { params: { order: order.id } });
  }

  /** A purchase to stock that is sent, due on a day. */
  async purchase(item: string, quantity: string, expectedDay: string, warehouse = 'MAR'): Promise<{ id: number; number: string; line: number }> {
    const made = await this.call('ida', supplyRoutes.createPurchase, { body: { supplier: 'SUP', warehouse, lines: [{ item, quantity, expectedDay }] } });
    await this.call('ida', supplyRoutes.sendPurchase, { params: { purchase: made.id }, body: { version: made.version } });
    return { id: made.id, number: made.number, line: made.lines[0]!.id };
  }

  async readPurchase(id: number) {
    return this.call('ida', supplyRoutes.readPurchase, { params: { purchase: id } });
  }

  async receive(purchase: number, quantity: string) {
    const view = await this.readPurchase(purchase);
    return this.call('wil', supplyRoutes.receive, { params: { purchase }, body: { version: view.version, lines: [{ line: view.lines[0]!.id, quantity }] } });
  }

  /** Picks and ships a quantity of a line. */
  async shipLine(order: OrderView, lineNo: number, quantity: string) {
    const line = order.lines[lineNo - 1]!;
    const pick = await this.call('wil', shippingRoutes.startPick, {
      body: { order: order.id, warehouse: line.warehouse, lines: [{ line: line.id, quantity }] },
    });
    return this.call('wil', shippingRoutes.ship, { params: { shipment: pick.id }, body: { tracking: 'T1' } });
  }

  async stock(item: string, warehouse = 'MAR') {
    const row = await this.db
      .selectFrom('stock')
      .select(['on_hand', 'allocated', 'inbound', 'committed'])
      .where('item', '=', item)
      .where('warehouse', '=', warehouse)
      .executeTakeFirst();
    return row ?? { on_hand: '0', allocated: '0', inbound: '0', committed: '0' };
  }

  async stockUp(item: string, quantity: string, warehouse = 'MAR'): Promise<void> {
    await this.db.insertInto('stock_movement').values({ at: new Date(), item, warehouse, quantity, kind: 'opening', reference: 'test' }).execute();
  }
}

/** What a screen that shows the order sends when it is released. */
export function seenOf(order: OrderView) {
  const seen = order.lines.map((line) => ({
    line: line.id,
    schedule: line.schedule.filter((entry) => !entry.dropShip).map(({ day, quantity }) => ({ day, quantity })),
    uncovered: line.uncovered,
  }));
  return { version: order.version, seen };
}
