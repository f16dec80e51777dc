import { orderRoutes, type OrderView } from '@nockwright/contract/orders';
import { outcomeWords, shortageRoutes, type ConsentWish } from '@nockwright/contract/shortages';
import { mailRoutes } from '@nockwright/contract/mail';
import { sql } from 'kysely';
import type { Transporter } from 'nodemailer';
import { deliverMail } from '../src/mail/commands';
import { brokenInvariants } from './invariants';
import { TestDesk, TODAY } from './test-desk';

let desk: TestDesk;
beforeAll(async () => (desk = await TestDesk.open()));
afterEach(async () => expect(await brokenInvariants(desk.db)).toEqual([]));
afterAll(() => desk.close());

async function shortOrder(quantity = '12'): Promise<OrderView> {
  const draft = await desk.draft([['BOX', quantity]]);
  return desk.release(await desk.route(draft, 1, 'backorder', quantity));
}

function wish(order: OrderView, more: Partial<ConsentWish> = {}): ConsentWish {
  const quantity = order.lines[0]!.waiting;
  return {
    parts: [{ kind: 'special_order', supplier: 'SLOW', quantity }],
    recipients: ['nora@wether.example'],
    question: `May we send the ${quantity} boxes on the 31st <b>of March</b>?`,
    answerBy: '2027-03-11',
    onNo: 'cancel',
    ...more,
  };
}

async function ask(order: OrderView, more: Partial<ConsentWish> = {}) {
  const consent = await desk.call('ida', shortageRoutes.askCustomer, { params: { order: order.id, line: order.lines[0]!.id }, body: wish(order, more) });
  const mail = await desk.db.selectFrom('mail').selectAll().where('order_id', '=', order.id).orderBy('id', 'desc').executeTakeFirst();
  return { consent, mail, link: mail?.request_id === consent.id ? await linkInMail(mail.id) : '' };
}

/** The link as the customer has it: of the message that goes out, and nowhere else. */
async function linkInMail(mail: number): Promise<string> {
  let text = '';
  const transport = {
    sendMail: async (message: { text: string }) => {
      text = message.text;
      return { rejected: [] };
    },
  };
  await deliverMail(desk.services, transport as unknown as Transporter, mail, false);
  return /http:\/\/desk\.example(\/answer\/\S+)/.exec(text)![1]!;
}

async function answer(link: string, fields: Record<string, string>, headers: Record<string, string> = {}) {
  const response = await desk.app.request(link, {
    method: 'POST',
    headers: { 'Content-Type': 'application/x-www-form-urlencoded', ...headers },
    body: new URLSearchParams(fields).toString(),
  });
  return { status: response.status, text: await response.text() };
}

const page = async (link: string) => {
  const response = await desk.app.request(link);
  return { status: response.status, text: await response.text(), headers: response.headers };
};

test('nobody at the desk sees the link, and no row has it; a mail that is tried again has another, and all of them work once', async () => {
  const order = await shortOrder();
  const { mail, link } = await ask(order);
  const shown = await desk.call('ida', mailRoutes.readMail, { params: { mail: mail!.id } });
  expect([shown.body.includes('/answer/'), shown.body.includes('[a link that only the customer sees]'), shown.message]).toEqual([false, true, null]);
  const token = link.slice('/answer/'.length);
  const tables = await sql<{ name: string }>`select table_name as name from information_schema.tables where table_schema in ('public', 'job_queue')`.execute(
    desk.db,
  );
  expect(tables.rows.length).toBeGreaterThan(40);
  for (const { name } of tables.rows.filter((row) => !/^kysely/.test(row.name))) {
    const found = await sql`select 1 from ${sql.table(name)} t where t::text like ${`%${token}%`}`.execute(desk.db).catch((error: { code?: string }) => {
      if (error.code === '42P01') return { rows: [] };
      throw error;
    });
    expect([name, found.rows.length]).toEqual([name, 0]);
  }

  await desk.db.updateTable('mail').set({ state: 'waiting', sent_at: null }).where('id', '=', mail!.id).execute();
  const other = await linkInMail(mail!.id);
  expect(other).not.toBe(link);
  expect([(await page(link)).status, (await page(other)).status]).toEqual([200, 200]);
  expect((await answer(link, { answer: 'refuse' })).status).toBe(200);
  expect([(await page(link)).status, (await page(other)).status]).toEqual([410, 410]);
});

test('a note with signs that no text has is kept without them', async () => {
  const { consent, link } = await ask(await shortOrder());
  expect((await answer(link, { answer: 'refuse', note: 'no\u0000 thank\u0007 you' })).status).toBe(200);
  const row = await desk.db.selectFrom('consent_request').select('note').where('id', '=', consent.id).executeTakeFirstOrThrow();
  expect(row.note).toBe('no  thank  you');
});

test('yes over the link does what was asked, once', async () => {
  const order = await shortOrder();
  const { link, mail } = await ask(order);
  expect(mail).toMatchObject({ recipients: ['nora@wether.example'], document_id: null, state: 'waiting' });
  // Nothing is bought before they say yes.
  expect((await desk.read(order)).lines[0]).toMatchObject({ waiting: '12', asked: { answerBy: '2027-03-11', overdue: false } });

  const shown = await page(link);
  expect(shown.status).toBe(200);
  expect(shown.text).toContain('May we send the 12 boxes');
  // What is asked is text, not markup; and the page is nobody's to keep or to frame.
  expect(shown.text).toContain('&lt;b&gt;');
  expect(shown.headers.get('Cache-Control')).toBe('no-store');
  // A browser names where a form comes from only if it may.
  expect(shown.headers.get('Referrer-Policy')).toBe('same-origin');
  expect(shown.headers.get('Content-Security-Policy')).toContain("frame-ancestors 'none'");

  expect((await answer(link, { answer: 'accept', note: 'thank you' })).text).toContain('You have said yes');
  const done = (await desk.read(order)).lines[0]!;
  expect(done).toMatchObject({ waiting: '0', promised: '12', asked: null, routes: [{ kind: 'special_order', document: { kind: 'purchase' } }] });
  const [consent] = await desk.call('ida', shortageRoutes.listConsents, { query: { order: order.id } });
  expect(consent).toMatchObject({ state: 'accepted', answeredHow: 'link', note: 'thank you', needsWork: false });

  expect((await page(link)).status).toBe(410);
  expect((await answer(link, { answer: 'refuse' })).status).toBe(410);
  expect((await desk.read(order)).lines[0]).toMatchObject({ promised: '12', cancelled: '0' });
});

test('no cuts the quantity, or brings it up to be routed otherwise', async () => {
  const first = await shortOrder();
  const cut = await ask(first);
  await answer(cut.link, { answer: 'refuse' });
  expect((await desk.read(first)).lines[0]).toMatchObject({ waiting: '0', cancelled: '12' });

  const second = await shortOrder();
  const { consent, link } = await ask(second, { onNo: 'reroute' });
  await answer(link, { answer: 'refuse' });
  expect((await desk.read(second)).lines[0]).toMatchObject({ waiting: '12', cancelled: '0' });
  const work = await desk.call('ida', shortageRoutes.listConsents);
  expect(work.find((row) => row.id === consent.id)).toMatchObject({ state: 'refused', needsWork: true, outcome: { done: [], owed: '12', failed: null } });
  await desk.call('ida', shortageRoutes.withdrawConsent, { params: { consent: consent.id }, body: {} });
  expect((await desk.call('ida', shortageRoutes.listConsents)).some((row) => row.id === consent.id)).toBe(false);
});

test('a part is routed, the rest is cut; a part that is none is asked for again', async () => {
  const order = await shortOrder();
  const { link } = await ask(order);
  for (const taken of ['', '0', '12', '13', '-1', 'all', '1e1']) expect([taken, (await answer(link, { answer: 'part', taken })).status]).toEqual([taken, 422]);
  expect((await answer(link, { answer: 'maybe' })).status).toBe(422);
  expect((await answer(link, { answer: 'part', taken: '5' })).text).toContain('You take 5 of 12');
  expect((await desk.read(order)).lines[0]).toMatchObject({ promised: '5', cancelled: '7', waiting: '0' });
});

test('an answer on the phone does the same, and a second one is refused', async () => {
  const order = await shortOrder();
  const { consent } = await ask(order, { recipients: [] });
  expect(consent.byMail).toBe(false);
  const twice = await desk.send('ida', shortageRoutes.askCustomer, { params: { order: order.id, line: order.lines[0]!.id }, body: wish(order) });
  expect([twice.status, twice.problem.detail]).toEqual([409, expect.stringContaining('asked about line 1 already')]);
  const told = await desk.call('ida', shortageRoutes.answerConsent, { params: { consent: consent.id }, body: { answer: 'accept' } });
  expect(told).toMatchObject({
    state: 'accepted',
    answeredHow: 'phone',
    outcome: { done: [{ kind: 'special_order', quantity: '12', supplier: 'SLOW' }], owed: null, failed: null },
  });
  const again = await desk.send('ida', shortageRoutes.answerConsent, { params: { consent: consent.id }, body: { answer: 'refuse' } });
  expect(again.status).toBe(409);
});

test('yes to what is no longer there is kept, and comes up as work', async () => {
  await desk.stockUp('LID', '6', 'QUI');
  const draft = await desk.draft([['LID', '6']]);
  const order = await desk.release(await desk.route(draft, 1, 'backorder', '6'));
  const { consent, link } = await ask(order, { parts: [{ kind: 'transfer', warehouse: 'QUI', quantity: '6' }] });
  // Meanwhile somebody else gets them.
  const other = await desk.release(await desk.route(await desk.draft([['LID', '6']]), 1, 'backorder', '6'));
  await desk.take(other, 1, { kind: 'transfer', warehouse: 'QUI', quantity: '6' });
  expect((await answer(link, { answer: 'accept' })).status).toBe(200);
  const work = (await desk.call('ida', shortageRoutes.listConsents)).find((row) => row.id === consent.id);
  expect(work).toMatchObject({
    state: 'accepted',
    needsWork: true,
    outcome: { done: [], owed: null, failed: 'transfer: there is no transfer with QUI for this line; nobody can do it' },
  });
  expect((await desk.read(order)).lines[0]).toMatchObject({ waiting: '6', routes: [{ kind: 'backorder' }] });
});

test('yes to a day that cannot be kept any more makes a new question, not a later promise', async () => {
  const order = await shortOrder();
  const { consent } = await ask(order);
  await desk.db.updateTable('supplier').set({ lead_days: 30 }).where('code', '=', 'SLOW').execute();
  await desk.call('ida', shortageRoutes.answerConsent, { params: { consent: consent.id }, body: { answer: 'accept' } });
  expect((await desk.read(order)).lines[0]).toMatchObject({ waiting: '12', promised: '0', routes: [{ kind: 'backorder' }] });
  const questions = await desk.call('ida', shortageRoutes.listConsents, { query: { order: order.id } });
  expect(questions.map(({ state, needsWork }) => [state, needsWork])).toEqual([
    ['open', false],
    ['accepted', true],
  ]);
  expect(outcomeWords(questions[1]!.outcome!)).toMatch(/^could not be done: .*it would leave .*, and .* was agreed to/);
  expect(questions[0]!.question).toMatch(/^You agreed to .*\. That day cannot be kept any more: 12 would leave .*\. May we send them then\?$/);
  await desk.call('ida', shortageRoutes.answerConsent, { params: { consent: questions[0]!.id }, body: { answer: 'accept' } });
  expect((await desk.read(order)).lines[0]).toMatchObject({ waiting: '0', promised: '12' });
  await desk.db.updateTable('supplier').set({ lead_days: 15 }).where('code', '=', 'SLOW').execute();
});

test('silence past its day comes up as work, and its link has ended', async () => {
  const order = await shortOrder();
  const { consent, link } = await ask(order, { answerBy: TODAY });
  expect((await page(link)).status).toBe(200);
  await desk.db.updateTable('consent_request').set({ answer_by: '2027-03-08' }).where('id', '=', consent.id).execute();
  const [first] = await desk.call('ida', shortageRoutes.listConsents);
  expect(first).toMatchObject({ id: consent.id, overdue: true, needsWork: true });
  const past = await desk.send('ida', shortageRoutes.askCustomer, {
    params: { order: order.id, line: order.lines[0]!.id },
    body: wish(order, { answerBy: '2027-03-08' }),
  });
  expect([past.status, past.problem.errors?.[0]?.field]).toEqual([422, 'body.answerBy']);
});

describe('a link', () => {
  test('that was altered, guessed, or is for another question, says no more than one that has ended', async () => {
    const { link, consent } = await ask(await shortOrder());
    const other = await ask(await shortOrder());
    const token = link.slice('/answer/'.length);
    const [id, day, nonce, signature] = [token.split('-')[0]!, token.split('-')[1]!, token.slice(token.indexOf('-', 11) + 1, -44), token.slice(-43)];
    const wrong = [
      `${token.slice(0, -1)}${token.endsWith('A') ? 'B' : 'A'}`,
      token.replace(`${id}-`, `${other.consent.id}-`),
      token.replace(day, '20991231'),
      `${id}-${day}-${nonce}`,
      '1',
      `${token}x`,
      `${consent.id}-${day}-${'A'.repeat(22)}-${signature}`,
    ];
    const texts = new Set<string>();
    for (const one of wrong) {
      const { status, text } = await page(`/answer/${encodeURIComponent(one)}`);
      expect([one, status]).toEqual([one, 410]);
      texts.add(text.replace(/nonce="[^"]*"/, ''));
      expect((await answer(`/answer/${encodeURIComponent(one)}`, { answer: 'accept' })).status).toBe(410);
    }
    expect(texts.size).toBe(1);
    expect((await page(link)).status).toBe(200);
  });

  test('taken back works no more; neither does one that is answered from another site', async () => {
    const { link, consent } = await ask(await shortOrder());
    expect((await answer(link, { answer: 'accept' }, { Origin: 'http://elsewhere.example', Host: 'desk.example' })).status).toBe(403);
    await desk.call('ida', shortageRoutes.withdrawConsent, { params: { consent: consent.id }, body: {} });
    expect((await page(link)).status).toBe(410);
  });

  test('is nowhere in the database but in the mail', async () => {
    const { link } = await ask(await shortOrder());
    const rows = await desk.db.selectFrom('consent_request').selectAll().execute();
    expect(JSON.stringify(rows)).not.toContain(link.slice(-43));
    const events = await desk.db.selectFrom('event').selectAll().execute();
    expect(JSON.stringify(events)).not.toContain(link.slice(-43));
  });
});

test('the warehouse does not ask customers', async () => {
  const order = await shortOrder();
  const refused = await desk.send('wil', shortageRoutes.askCustomer, { params: { order: order.id, line: order.lines[0]!.id }, body: wish(order) });
  expect(refused.status).toBe(403);
  expect((await desk.call('ida', orderRoutes.readOrder, { params: { order: order.id } })).lines[0]!.asked).toBeNull();
});

test('on a draft a line that is replaced as a whole is gone, and its question stays answered', async () => {
  await desk.stockUp('TUB', '30');
  const draft = await desk.draft([
    ['JAR', '1'],
    ['BOX', '7'],
  ]);
  const line = draft.lines[1]!.id;
  const body: ConsentWish = {
    parts: [{ kind: 'substitute', item: 'TUB', quantity: '7' }],
    recipients: [],
    question: 'Tubs instead?',
    answerBy: TODAY,
    onNo: 'reroute',
  };
  const { id } = await desk.call('ida', shortageRoutes.askCustomer, { params: { order: draft.id, line }, body });
  const answered = await desk.call('ida', shortageRoutes.answerConsent, { params: { consent: id }, body: { answer: 'accept' } });
  expect(answered).toMatchObject({ state: 'accepted', line: null, needsWork: false });
  expect((await desk.read(draft)).lines.map((row) => [row.item, row.quantity])).toEqual([
    ['JAR', '1'],
    ['TUB', '14'],
  ]);
});
