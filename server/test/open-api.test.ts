import { mailRoutes } from '@nockwright/contract/mail';
import { pricingRoutes } from '@nockwright/contract/pricing';
import { promiseRoutes } from '@nockwright/contract/promise';
import { allRoutes } from '@nockwright/contract/api';
import { supplyRoutes } from '@nockwright/contract/supply';
import { bankRoutes, invoiceRoutes } from '@nockwright/contract/billing';
import { payableRoutes } from '@nockwright/contract/payables';
import { counterRoutes } from '@nockwright/contract/counter';
import { consignmentRoutes, shippingRoutes } from '@nockwright/contract/shipping';
import { TestDesk } from './test-desk';

let desk: TestDesk;
beforeAll(async () => {
  desk = await TestDesk.open();
});
afterAll(() => desk.close());

interface Document {
  readonly openapi: string;
  readonly paths: Record<
    string,
    Record<
      string,
      { operationId: string; summary: string; responses: object; requestBody?: object; parameters: { name: string; in: string; required: boolean }[] }
    >
  >;
}

test('the OpenAPI page tells of every route there is, and of no other', async () => {
  const document = (await (await desk.app.request('/api/openapi.json')).json()) as Document;
  expect(document.openapi).toBe('3.1.0');
  const told = Object.entries(document.paths).flatMap(([path, methods]) => Object.keys(methods).map((method) => `${method.toUpperCase()} ${path}`));
  const mounted = desk.app.routes
    .filter(({ method, path }) => method !== 'ALL' && path.startsWith('/api/') && !path.startsWith('/api/docs') && path !== '/api/openapi.json')
    .map(({ method, path }) => `${method} ${path.replace(/:(\w+)/g, '{$1}')}`);
  expect([...new Set(told)].sort()).toEqual([...new Set(mounted)].sort());
  expect(told).toHaveLength(allRoutes().length);
});

test('every operation has a name, a summary, its parameters and its problems', async () => {
  const document = (await (await desk.app.request('/api/openapi.json')).json()) as Document;
  const names = new Set<string>();
  for (const [path, methods] of Object.entries(document.paths)) {
    for (const [method, operation] of Object.entries(methods)) {
      expect(names.has(operation.operationId)).toBe(false);
      names.add(operation.operationId);
      expect(operation.summary.length).toBeGreaterThan(5);
      expect(Object.keys(operation.responses)).toEqual(expect.arrayContaining(['200', '422']));
      const inPath = [...path.matchAll(/\{(\w+)\}/g)].map((match) => match[1]);
      expect(operation.parameters.filter((row) => row.in === 'path').map((row) => row.name)).toEqual(inPath);
      if (method !== 'get' && operation.operationId !== 'logIn') expect(operation.parameters.map((row) => row.name)).toContain('Idempotency-Key');
    }
  }
});

test('the page to read it in ships with the server', async () => {
  expect(await (await desk.app.request('/api/docs')).text()).toContain('/api/docs/swagger-ui-bundle.js');
  expect((await desk.app.request('/api/docs/swagger-ui-bundle.js')).status).toBe(200);
  expect((await desk.app.request('/api/docs/..%2fpackage.json')).status).toBe(404);
});

test('replies have the shape the contract promises', async () => {
  await desk.stockUp('JAR', '5');
  const order = await desk.order([['JAR', '5']]);
  const purchase = await desk.purchase('JAR', '50', '2027-03-20');
  const contract = await desk.call('mona', pricingRoutes.createContract, { body: { name: 'Jars', firstDay: '2027-01-01', lastDay: '2027-12-31' } });
  await desk.call('ida', mailRoutes.mailPaper, {
    params: { order: order.id },
    body: { paper: order.papers[0]!.id, recipients: ['a@b.example'], subject: 'x', text: '', files: [] },
  });
  const waiting = await desk.draft([['BOX', '4']]);
  const routed = await desk.route(waiting, 1, 'backorder', '4');
  const { transfer, transferLine, assembly } = await movedAndMade();
  const basket = await desk.call('ida', counterRoutes.startBasket, { body: { warehouse: 'MAR', customer: 1 } });
  const picked = await desk.call('ida', shippingRoutes.startPick, {
    body: { order: order.id, warehouse: 'MAR', lines: [{ line: order.lines[0]!.id, quantity: '2' }] },
  });
  const { consignment_id } = await desk.db.selectFrom('shipment').select('consignment_id').where('id', '=', picked.id).executeTakeFirstOrThrow();
  const packed = await desk.call('ida', consignmentRoutes.openCarton, { params: { consignment: consignment_id! }, body: { type: 'OWN' } });
  const piece = await desk.db.insertInto('item_serial').values({ item: 'JAR', serial: 'S-1', place_id: null }).returning('id').executeTakeFirstOrThrow();
  await desk.db.updateTable('firm').set({ country: 'GB', tax_number: 'GB123456789' }).execute();
  const left = async () => {
    await desk.stockUp('LID', '4');
    const sold = await desk.order([['LID', '4']]);
    await desk.shipLine(sold, 1, '4');
    return (await desk.read(sold)).shipments[0]!.id;
  };
  const billed = await left();
  const waits = await left();
  const { total } = await desk.call('fay', invoiceRoutes.previewInvoice, { query: { shipments: String(billed) } });
  const invoice = await desk.call('fay', invoiceRoutes.issueInvoice, { body: { shipments: [billed], total } });
  const came = await desk.purchase('JAR', '20', '2027-03-20');
  await desk.receive(came.id, '20');
  const [owed] = await desk.call('fay', payableRoutes.listInvoiceable, { params: { supplier: 'SUP' } });
  const payable = await desk.call('fay', payableRoutes.enterSupplierInvoice, {
    body: {
      supplier: 'SUP',
      number: 'S-1',
      day: '2027-03-08',
      dueDay: '2027-04-08',
      freight: '0',
      tax: '0',
      total: '99',
      lines: [{ line: owed!.line, quantity: '20', price: '9' }],
    },
  });
  await desk.call('fay', bankRoutes.addBankFile, { body: { name: 'bank.csv', content: `day,amount,text\n2027-03-08,${total},${invoice.number}` } });
  const values: Record<string, string> = {
    invoice: String(invoice.id),
    payable: String(payable.id),
    serial: String(piece.id),
    transfer,
    assembly,
    consignment: String(packed.id),
    part: String(packed.parts[0]!.id),
    carton: String(packed.cartons[0]!.id),
    route: String(routed.lines[0]!.routes[0]!.id),
    mail: '1',
    user: '1',
    order: String(order.id),
    line: String(order.lines[0]!.id),
    purchase: String(purchase.id),
    customer: '1',
    item: 'JAR',
    run: '1',
    contract: String(contract.id),
    list: 'LIST',
    warehouse: 'MAR',
    supplier: 'SUP',
    lot: 'L1',
    place: String((await desk.db.selectFrom('stock_place').select('id').where('quantity', '>', '100').limit(1).executeTakeFirstOrThrow()).id),
  };
  await desk.db.insertInto('item_lot').values({ item: 'JAR', lot: 'L1', expires: '2027-12-31' }).execute();
  const standing = { version: contract.version, all: false, lines: [{ item: 'JAR', kind: 'fixed' as const, unit: 'EA', price: '0.4', most: '900' }] };
  await desk.call('mona', pricingRoutes.storeContractLines, { params: { contract: contract.id }, body: standing });
  await desk.call('ida', promiseRoutes.startResequence, { body: {} });
  const draft = String((await desk.draft([['JAR', '2']])).id);
  const queries: Record<string, string> = {
    previewReschedule: '?day=2027-03-22&cost=0.4',
    previewTransferChange: '?day=2027-03-22',
    previewTransferReceipt: `?lines=${transferLine}:3&closeRest=true`,
    previewAssemblyChange: '?day=2027-03-22',
    previewReceipt: `?lines=${purchase.line}:60&closeRest=true`,
    previewTurn: '?priority=1',
    checkPromise: '?warehouse=MAR&day=2027-03-12&lines=JAR:7,LID:2',
    readSlice: '?item=JAR',
    previewLine: '?item=JAR&quantity=7',
    previewRaise: '?quantity=9&claim=true',
    readQueue: '?warehouse=MAR',
    readWalk: '?warehouse=MAR',
    previewCount: '?warehouse=MAR&counted=3',
    previewMove: '?quantity=1&status=quarantine',
    readScan: '?text=jar',
    findDoubles: '?name=Wether',
    planRoutes: `?lines=${order.lines[0]!.id}`,
    readRisks: `?orders=${order.id}`,
    previewInvoice: `?shipments=${waits}`,
    proposePayment: '?amount=1',
    previewChoice: `?lines=${order.lines[0]!.id}`,
  };
  for (const { name, route } of allRoutes()) {
    if (route.method !== 'GET' || !route.reply || name === 'readShipment') continue;
    const line = ['previewReschedule', 'previewClose'].includes(name) ? String(purchase.line) : values['line']!;
    const undone: Record<string, string> = { order: String(waiting.id), line: String(waiting.lines[0]!.id) };
    const path = route.path.replace(/\{(\w+)\}/g, (_, part: string) =>
      name === 'previewUndo' && undone[part]
        ? undone[part]
        : part === 'line'
          ? line
          : part === 'order' && name === 'readBasket'
            ? String(basket.order)
            : part === 'order' && ['readSlice', 'previewLine'].includes(name)
              ? draft
              : values[part]!,
    );
    const asks = route.roles === 'public' || route.roles.includes('coordinator') ? 'ida' : 'mona';
    const response = await desk.request(asks, 'GET', `/api${path}${queries[name] ?? ''}`);
    expect([name, response.status]).toEqual([name, 200]);
    const { error } = route.reply.schema.validate(await response.json(), { abortEarly: false, convert: false });
    expect([name, error?.message]).toEqual([name, undefined]);
  }
});

/** A transfer and an assembly under way. */
async function movedAndMade() {
  await desk.stockUp('LID', '5', 'QUI');
  const moved = await desk.draft([['LID', '500']]);
  await desk.take(moved, 1, { kind: 'transfer', warehouse: 'QUI', quantity: '5' }, { kind: 'backorder', quantity: '495' });
  const transfer = (await desk.release(await desk.read(moved))).lines[0]!.routes[0]!.document!.id;
  await desk.stockUp('JAR', '500');
  await desk.stockUp('LID', '500');
  const made = await desk.draft([['KIT', '1']]);
  await desk.take(made, 1, { kind: 'assemble', quantity: '1' });
  const assembly = (await desk.release(await desk.read(made))).lines[0]!.routes[0]!.document!.id;
  const view = await desk.call('ida', supplyRoutes.readTransfer, { params: { transfer } });
  await desk.call('wil', supplyRoutes.shipTransfer, { params: { transfer }, body: { version: view.version } });
  return { transfer: String(transfer), transferLine: view.lines[0]!.id, assembly: String(assembly) };
}
