import type { Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import { customerRoutes } from '@nockwright/contract/customers';
import { misplacedElements, readDespatchAdvice } from '@nockwright/core/exchange';
import { serve } from '@hono/node-server';
import { carrierRoutes, consignmentRoutes, shippingRoutes, type ConsignmentView } from '@nockwright/contract/shipping';
import { hearNews, settleLabel, sweepLabels } from '../src/shipping/commands';
import { CarrierStandIn } from '../src/stand-ins';
import { orderRoutes } from '@nockwright/contract/orders';
import { sql } from 'kysely';
import { brokenInvariants } from './invariants';
import { TestDesk } from './test-desk';

let desk: TestDesk;
let carrier: CarrierStandIn;
let server: Server;
let url: string;

beforeAll(async () => {
  desk = await TestDesk.open();
  carrier = new CarrierStandIn({ code: 'HARROW', name: 'Harrow Parcels', file: null, clock: () => new Date('2027-03-09T10:00:00Z'), seconds: 0 });
  server = await new Promise<Server>((resolve) => {
    const started = serve({ fetch: carrier.app.fetch, port: 0, hostname: '127.0.0.1' }, () => resolve(started as Server));
  });
  url = `http://127.0.0.1:${(server.address() as AddressInfo).port}`;
  await desk.db.insertInto('carrier').values({ code: 'HARROW', name: 'Harrow Parcels', url }).execute();
  await desk.db.updateTable('carrier_service').set({ carrier: 'HARROW' }).where('code', '=', 'GROUND').execute();
  await desk.db.insertInto('carrier_service').values({ code: 'EXPRESS', name: 'Express', transit_days: 1, carrier: 'HARROW', divisor: 5000 }).execute();
  await desk.db
    .insertInto('carton_type')
    .values({ code: 'S', name: 'small', length_cm: '30', width_cm: '20', height_cm: '20', tare_kg: '0.2', most_kg: '10' })
    .execute();
  await desk.stockUp('JAR', '500');
  // In the nearest zone: further out it takes a day longer than the record of the service says.
  await desk.db.updateTable('ship_to').set({ postcode: 'AC1 2CD' }).execute();
});
afterEach(async () => expect(await brokenInvariants(desk.db)).toEqual([]));
afterAll(async () => {
  server.close();
  await desk.close();
});

/** A consignment that is packed and waits for its label. */
async function packed(): Promise<ConsignmentView> {
  const order = await desk.order([['JAR', '4']]);
  const pick = await desk.call('wil', shippingRoutes.startPick, {
    body: { order: order.id, warehouse: 'MAR', lines: [{ line: order.lines[0]!.id, quantity: '4' }] },
  });
  const { consignment_id: id } = await desk.db.selectFrom('shipment').select('consignment_id').where('id', '=', pick.id).executeTakeFirstOrThrow();
  const view = await read(id!);
  return desk.call('wil', consignmentRoutes.packProposed, { params: { consignment: view.id }, body: { version: view.version } });
}

const read = (consignment: number) => desk.call('wil', consignmentRoutes.readConsignment, { params: { consignment } });
const ask = (consignment: number) => desk.call('wil', consignmentRoutes.requestLabel, { params: { consignment }, body: {} });

/** What the job queue does with a label; `last`: for the last time. A carrier that is away throws, for the queue to try again. */
async function job(view: ConsignmentView, last = false): Promise<string> {
  return settleLabel(desk.services, view.label!.id, last).then(
    () => 'done',
    (error: Error) => error.message,
  );
}

test('a label that fails twice is made at the third try, once: the carrier has one request, the consignment one number', async () => {
  const view = await packed();
  expect(view.missing).toEqual(['The carrier takes nothing without a label. Make it, or enter the tracking number of one']);
  const asked = await ask(view.id);
  carrier.behaviour = { slowMs: 0, failures: 2, refuses: '' };
  expect([await job(asked), await job(asked)]).toEqual(['Harrow Parcels is being repaired', 'Harrow Parcels is being repaired']);
  expect((await read(view.id)).label).toMatchObject({ state: 'waiting', attempts: 2, fault: 'Harrow Parcels is being repaired' });
  expect(await job(asked)).toBe('done');
  // A job that is done twice asks for nothing more.
  expect(await job(asked)).toBe('done');
  const made = await read(view.id);
  expect(made.label).toMatchObject({ state: 'made', fault: '' });
  expect(made.missing).toEqual([]);
  const again = await desk.send('wil', consignmentRoutes.requestLabel, { params: { consignment: view.id }, body: {} });
  expect([again.status, again.problem.detail]).toEqual([409, expect.stringContaining('is made already')]);
  const pdf = await desk.request('wil', 'GET', `/api/consignments/${view.id}/label`);
  expect(
    Buffer.from(await pdf.arrayBuffer())
      .subarray(0, 5)
      .toString(),
  ).toBe('%PDF-');
  const left = await desk.call('wil', consignmentRoutes.shipConsignment, { params: { consignment: view.id }, body: { version: made.version, tracking: '' } });
  expect([left.state, left.tracking, left.freight]).toEqual(['shipped', made.label!.tracking, made.label!.freight]);
});

test('what the carrier refuses stays refused until somebody chooses otherwise; the old request is voided', async () => {
  const view = await packed();
  carrier.behaviour = { slowMs: 0, failures: 0, refuses: 'no service to this postcode today' };
  const asked = await ask(view.id);
  expect(await job(asked)).toBe('done');
  const failed = await read(view.id);
  expect(failed.label).toMatchObject({ state: 'failed', fault: 'no service to this postcode today' });
  expect(failed.missing).toEqual(['The label failed: no service to this postcode today. Try again, or choose another service']);
  carrier.behaviour = { slowMs: 0, failures: 0, refuses: '' };
  const other = await desk.call('wil', consignmentRoutes.setService, {
    params: { consignment: view.id },
    body: { version: failed.version, service: 'EXPRESS' },
  });
  expect([other.service, other.label]).toEqual(['EXPRESS', null]);
  expect(await job(asked)).toBe('done');
  const { state } = await desk.db.selectFrom('consignment_label').select('state').where('id', '=', asked.label!.id).executeTakeFirstOrThrow();
  expect(state).toBe('void');
});

test('the cheapest service that arrives in time is the best; one that does not answer says so', async () => {
  const view = await packed();
  const offers = await desk.call('wil', consignmentRoutes.readOffers, { params: { consignment: view.id } });
  expect(offers[0]).toMatchObject({ service: 'GROUND', best: true, inTime: true });
  expect(Number(offers[0]!.rate)).toBeLessThan(Number(offers.find((row) => row.service === 'EXPRESS')!.rate));
  carrier.behaviour = { slowMs: 0, failures: 9, refuses: '' };
  const away = await desk.call('wil', consignmentRoutes.readOffers, { params: { consignment: view.id } });
  expect(away.map((row) => [row.rate, row.fault])).toContainEqual([null, 'Harrow Parcels is being repaired']);
  carrier.behaviour = { slowMs: 0, failures: 0, refuses: '' };
});

test('while a carrier lets the desk wait, no connection to the database does', async () => {
  const view = await packed();
  carrier.behaviour = { slowMs: 300, failures: 0, refuses: '' };
  const before = carrier.requests;
  const asked = desk.call('wil', consignmentRoutes.readOffers, { params: { consignment: view.id } });
  while (carrier.requests === before) await new Promise((resolve) => setImmediate(resolve));
  const { rows } = await sql<{ waiting: number }>`
    select count(*)::int as waiting from pg_stat_activity where datname = current_database() and state like 'idle in transaction%'`.execute(desk.db);
  expect(rows[0]!.waiting).toBe(0);
  carrier.behaviour = { slowMs: 0, failures: 0, refuses: '' };
  expect((await asked).some((row) => row.best)).toBe(true);
});

test('news of the carrier come in once, are seen with the order, and end what can be undone', async () => {
  const view = await packed();
  const asked = await ask(view.id);
  await job(asked);
  const made = await read(view.id);
  const left = await desk.call('wil', consignmentRoutes.shipConsignment, { params: { consignment: view.id }, body: { version: made.version, tracking: '' } });
  expect(left.undo).toBe(true);
  await fetch(`${url}/pick-up`, { method: 'POST' });
  await hearNews(desk.services);
  await hearNews(desk.services);
  const picked = await read(view.id);
  expect([picked.events.map((event) => event.kind), picked.undo]).toEqual([['picked_up'], false]);
  const refused = await desk.send('wil', consignmentRoutes.undoShipment, { params: { consignment: view.id }, body: { reason: 'too late' } });
  expect([refused.status, refused.problem.detail]).toEqual([409, expect.stringContaining('has picked it up already')]);
  await fetch(`${url}/move-on`, { method: 'POST' });
  await fetch(`${url}/labels/${made.label!.tracking}/exception`, { method: 'POST' });
  await hearNews(desk.services);
  expect((await read(view.id)).events.map((event) => event.kind)).toEqual(['picked_up', 'in_transit', 'exception']);
  // The mail leads to the carrier's own page about the parcel.
  const { body } = await desk.db.selectFrom('mail').select('body').where('consignment_id', '=', view.id).executeTakeFirstOrThrow();
  const link = /http:\S+/.exec(body)![0];
  expect(await (await fetch(link)).text()).toContain('Picked up at the sender');
});

test('the manager makes a carrier fail and moves its parcels on; one that is away says so', async () => {
  const set = await desk.call('mona', carrierRoutes.setCarrier, { params: { carrier: 'HARROW' }, body: { slow: 0, failures: 1, refuses: '' } });
  expect(set).toMatchObject({ there: true, failures: 1 });
  expect(carrier.behaviour.failures).toBe(1);
  await desk.call('mona', carrierRoutes.setCarrier, { params: { carrier: 'HARROW' }, body: { slow: 0, failures: 0, refuses: '' } });
  expect((await desk.call('mona', carrierRoutes.moveParcels, { params: { carrier: 'HARROW' }, body: {} })).moved).toBeGreaterThanOrEqual(0);
  await desk.db.insertInto('carrier').values({ code: 'AWAY', name: 'Away', url: 'http://127.0.0.1:9' }).execute();
  expect((await desk.call('mona', carrierRoutes.readCarriers)).map((row) => [row.code, row.there])).toEqual([
    ['AWAY', false],
    ['HARROW', true],
  ]);
});

test('an order that is cancelled takes its goods out of their carton, and its label is voided without anybody asking', async () => {
  const view = await packed();
  const asked = await ask(view.id);
  await job(asked);
  const order = await desk.read({ id: view.shipments[0]!.order });
  await desk.call('ida', orderRoutes.cancelOrder, { params: { order: order.id }, body: { version: order.version, reason: 'other', purchases: 'keep' } });
  const after = await read(view.id);
  expect([after.state, after.cartons.flatMap((row) => row.contents), after.label]).toEqual(['cancelled', [], null]);
  await sql`update consignment_label set try_at = now() - interval '1 minute' where id = ${asked.label!.id}`.execute(desk.db);
  await sweepLabels(desk.services);
  const { state } = await desk.db.selectFrom('consignment_label').select('state').where('id', '=', asked.label!.id).executeTakeFirstOrThrow();
  expect(state).toBe('void');
});

test('a label of goods that go back to stock is voided; one that was picked up is not', async () => {
  const view = await packed();
  const asked = await ask(view.id);
  await job(asked);
  await desk.call('wil', shippingRoutes.cancelPick, { params: { shipment: view.shipments[0]!.id }, body: { reason: 'test' } });
  expect(await job(asked)).toBe('done');
  const other = await packed();
  const second = await ask(other.id);
  await job(second);
  await fetch(`${url}/pick-up`, { method: 'POST' });
  await desk.call('wil', consignmentRoutes.voidLabel, { params: { consignment: other.id }, body: {} });
  await job(second);
  const rows = await desk.db
    .selectFrom('consignment_label')
    .select(['state', 'fault'])
    .where('id', 'in', [asked.label!.id, second.label!.id])
    .orderBy('id')
    .execute();
  expect(rows).toEqual([
    { state: 'void', fault: '' },
    { state: 'made', fault: 'it is picked up already' },
  ]);
});

describe('what the customer pays for freight', () => {
  const terms = async (more: object) => {
    const { version } = await desk.call('ida', customerRoutes.readCustomer, { params: { customer: 1 } });
    const body = { version, freightRule: 'included', freightFlat: null, freightFreeFrom: null, freightAccount: '', takesAdvices: false, ...more } as never;
    return desk.send('ida', customerRoutes.setShippingTerms, { params: { customer: 1 }, body });
  };
  async function gone() {
    const view = await packed();
    const asked = await ask(view.id);
    expect(await job(asked)).toBe('done');
    const made = await read(view.id);
    return desk.call('wil', consignmentRoutes.shipConsignment, { params: { consignment: view.id }, body: { version: made.version, tracking: '' } });
  }
  afterAll(() => terms({}));

  test('terms that lack their figure are refused by field', async () => {
    expect((await terms({ freightRule: 'flat' })).problem.errors).toEqual([{ field: 'body.freightFlat', message: 'expected what an order pays, got nothing' }]);
    expect((await terms({ freightRule: 'own_account' })).problem.errors).toMatchObject([{ field: 'body.freightAccount' }]);
  });

  test('flat: once an order; given back as the shipment is undone', async () => {
    expect((await terms({ freightRule: 'flat', freightFlat: '9.50', freightFreeFrom: '250' })).status).toBe(200);
    const left = await gone();
    expect([left.freightTerms, left.charged]).toEqual(['Freight 9.50 EUR an order, free from 250.00 EUR', '9.50']);
    const undone = await desk.call('ida', consignmentRoutes.undoShipment, { params: { consignment: left.id }, body: { reason: 'wrong van' } });
    expect(undone.charged).toBeNull();
  });

  test('at cost: what the carrier asks; on their own account it asks us for nothing', async () => {
    await terms({ freightRule: 'at_cost' });
    const left = await gone();
    expect(left.charged).toBe(left.freight);
    expect(Number(left.charged)).toBeGreaterThan(0);
    await terms({ freightRule: 'own_account', freightAccount: 'BR-7' });
    const own = await gone();
    expect([own.freightTerms, Number(own.charged), Number(own.freight)]).toEqual(['Freight on the customer’s own account BR-7', 0, 0]);
  });
});

test('who takes despatch advices has one with the mail: cartons, what is in them, what is still owed, in the sequence of UBL 2.1', async () => {
  const { version } = await desk.call('ida', customerRoutes.readCustomer, { params: { customer: 1 } });
  const body = { version, freightRule: 'included' as const, freightFlat: null, freightFreeFrom: null, freightAccount: '', takesAdvices: true };
  await desk.call('ida', customerRoutes.setShippingTerms, { params: { customer: 1 }, body });
  const view = await packed();
  const asked = await ask(view.id);
  await job(asked);
  const made = await read(view.id);
  await desk.call('wil', consignmentRoutes.shipConsignment, { params: { consignment: view.id }, body: { version: made.version, tracking: '' } });
  const file = await desk.db
    .selectFrom('mail_file')
    .innerJoin('mail', 'mail.id', 'mail_file.mail_id')
    .innerJoin('order_file', 'order_file.id', 'mail_file.file_id')
    .select(['order_file.name', 'content'])
    .where('consignment_id', '=', view.id)
    .executeTakeFirstOrThrow();
  const number = view.shipments[0]!.number;
  expect(file.name).toBe(`despatch-advice-${number}.xml`);
  const xml = file.content.toString('utf8');
  expect(misplacedElements(xml)).toEqual([]);
  expect(xml).toContain(`<cbc:ID schemeID="SSCC">${made.cartons[0]!.sscc}</cbc:ID>`);
  expect(readDespatchAdvice(xml)).toMatchObject({ ok: true, document: { number, tracking: made.label!.tracking, lines: [{ orderLine: '1', quantity: '4' }] } });
});
