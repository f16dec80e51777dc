import { mailRoutes } from '@nockwright/contract/mail';
import { documentRoutes } from '@nockwright/contract/documents';
import { orderRoutes, type OrderView } from '@nockwright/contract/orders';
import { JobQueue } from '../src/jobs';
import { createTransport, deliverMail, sweepMail } from '../src/mail/commands';
import { sql } from 'kysely';
import { TestDesk } from './test-desk';

let desk: TestDesk;
beforeAll(async () => {
  desk = await TestDesk.open();
  await desk.stockUp('JAR', '5000');
});
afterAll(() => desk.close());

const mail = (order: OrderView, more: { recipients?: string[]; files?: number[] } = {}) =>
  desk.call('ida', mailRoutes.mailPaper, {
    params: { order: order.id },
    body: { paper: order.papers[0]!.id, recipients: ['nora@wether.example'], subject: 'Your order', text: 'Leaves on Thursday.', files: [], ...more },
  });

const deliver = (id: number, last = false) => deliverMail(desk.services, createTransport(desk.db, undefined), id, last);
const read = (id: number) => desk.call('ida', mailRoutes.readMail, { params: { mail: id } });
const lastMail = async () => (await desk.call('ida', mailRoutes.listMail, {})).rows[0]!;

test('a paper is mailed with its PDF; the order tells to whom, the outbox keeps the message', async () => {
  const order = await desk.order([['JAR', '10']]);
  expect(order.papers).toMatchObject([{ kind: 'acknowledgement', mails: [] }]);
  const mailed = await mail(order);
  expect(mailed.papers[0]!.mails).toMatchObject([{ recipients: ['nora@wether.example'], state: 'waiting' }]);
  const { id } = await lastMail();
  await deliver(id);
  expect(await read(id)).toMatchObject({
    row: { state: 'sent', attempts: 1, fault: '', about: { kind: 'order', label: order.number } },
    attachments: [{ name: `acknowledgement-${order.number}.pdf` }],
  });
  const response = await desk.request('ida', 'GET', `/api/mail/${id}/message`);
  expect(response.headers.get('Content-Disposition')).toContain('attachment');
  const message = await response.text();
  // RFC 5322 and MIME (RFC 2045): the fields a message has, and a PDF as a part in base64.
  expect(message).toMatch(/^From: Marrowby Apiary Supply <orders@marrowby\.example>\r$/m);
  expect(message).toMatch(/^To: nora@wether\.example\r$/m);
  expect(message).toMatch(/^Message-ID: <.+>\r$/m);
  expect(message).toContain('JVBERi0'); // %PDF-
  await deliver(id);
  expect((await read(id)).row.attempts).toBe(1);
});

test('a post office that is closed has the mail tried again, and it is told', async () => {
  const order = await desk.order([['JAR', '10']]);
  await mail(order);
  const { id } = await lastMail();
  const closed = await desk.send('ida', mailRoutes.setPostOffice, { body: { open: false } });
  expect(closed.status).toBe(403);
  await desk.call('mona', mailRoutes.setPostOffice, { body: { open: false } });
  await expect(deliver(id)).rejects.toThrow('421');
  expect((await read(id)).row).toMatchObject({ state: 'waiting', attempts: 1, fault: '421 the post office is closed, try again later' });
  await expect(deliver(id, true)).resolves.toBeUndefined();
  expect((await read(id)).row).toMatchObject({ state: 'failed', attempts: 2 });
  await desk.call('mona', mailRoutes.setPostOffice, { body: { open: true } });
  await desk.call('ida', mailRoutes.retryMail, { params: { mail: id }, body: {} });
  await deliver(id);
  expect((await read(id)).row).toMatchObject({ state: 'sent', attempts: 3, fault: '' });
});

test('an address nobody has fails at once; with another it goes out', async () => {
  const order = await desk.order([['JAR', '10']]);
  await mail(order, { recipients: ['nora@wether.invalid'] });
  const { id } = await lastMail();
  await deliver(id);
  expect((await read(id)).row).toMatchObject({ state: 'failed', attempts: 1 });
  expect(await desk.call('ida', mailRoutes.listMail, { query: { state: 'failed' } })).toMatchObject({ failed: 1, rows: [{ id }] });
  await desk.call('ida', mailRoutes.retryMail, { params: { mail: id }, body: { recipients: ['nora@wether.example'] } });
  await deliver(id);
  expect((await read(id)).row.state).toBe('sent');
});

test('of two recipients each has a fate of their own; who was refused is tried again, who has it is not', async () => {
  const order = await desk.order([['JAR', '10']]);
  await mail(order, { recipients: ['nora@wether.example', 'bo@wether.invalid'] });
  const { id } = await lastMail();
  await deliver(id);
  expect((await read(id)).row).toMatchObject({
    state: 'failed',
    fates: [
      { address: 'nora@wether.example', taken: true, why: '' },
      { address: 'bo@wether.invalid', taken: false, why: expect.stringContaining('refused') },
    ],
  });
  await desk.call('ida', mailRoutes.retryMail, { params: { mail: id }, body: { recipients: ['bo@wether.example'] } });
  await deliver(id);
  expect((await read(id)).row).toMatchObject({ state: 'sent', recipients: ['nora@wether.example', 'bo@wether.example'] });
  const sent = await desk.db.selectFrom('outbox_message').select(['recipients', 'message']).where('mail_id', '=', id).orderBy('id').execute();
  expect(sent.map((row) => row.recipients)).toEqual([['nora@wether.example'], ['bo@wether.example']]);
  // Who gets it twice all the same sees one message.
  const ids = sent.map((row) => /^Message-ID: (<.+>)\r$/m.exec(row.message.toString('latin1'))?.[1]);
  expect(new Set(ids).size).toBe(1);
});

test('a mail that hangs in another’s hand is tried again, and one without a job gets one', async () => {
  const order = await desk.order([['JAR', '10']]);
  await mail(order);
  const { id } = await lastMail();
  let letGo: () => void = () => undefined;
  const hangs = { sendMail: () => new Promise((resolve) => (letGo = () => resolve({}))) } as unknown as ReturnType<typeof createTransport>;
  const first = deliverMail(desk.services, hangs, id, false);
  for (;;) {
    const row = await desk.db.selectFrom('mail').select('claimed_until').where('id', '=', id).executeTakeFirstOrThrow();
    if (row.claimed_until !== null) break;
  }
  await expect(deliver(id)).rejects.toThrow('is being sent by another');
  letGo();
  await first;
  // The sender died: its claim runs out, and its job is gone.
  await desk.db
    .updateTable('mail')
    .set({ state: 'waiting', sent_at: null, claimed_until: new Date(0) })
    .where('id', '=', id)
    .execute();
  await sql`delete from job_queue.job where name = 'mail'`.execute(desk.db);
  expect(await sweepMail(desk.services)).toBe(1);
  expect(await sweepMail(desk.services)).toBe(0);
  await desk.db.updateTable('mail').set({ fates: '[]' }).where('id', '=', id).execute();
  await deliver(id);
  expect((await read(id)).row.state).toBe('sent');
});

test.each([
  ['an address', { recipients: ['nora at wether'] }, 'body.recipients[0]'],
  ['a file of another order', { files: [4711] }, 'body.files[0]'],
])('%s that is wrong is refused, and nothing is mailed', async (_, more, field) => {
  const order = await desk.order([['JAR', '10']]);
  const before = (await lastMail()).id;
  const { status, problem } = await desk.send('ida', mailRoutes.mailPaper, {
    params: { order: order.id },
    body: { paper: order.papers[0]!.id, recipients: ['a@b.example'], subject: 'x', text: '', files: [], ...more },
  });
  expect([status, problem.errors?.[0]?.field]).toEqual([422, field]);
  expect((await lastMail()).id).toBe(before);
});

test('the queue does it, once the transaction that mailed has committed', async () => {
  const order = await desk.order([['JAR', '10']]);
  const jobs = new JobQueue(desk.url, desk.services.log);
  try {
    await mail(order);
    const mine = (await lastMail()).id;
    await new Promise<void>((resolve, reject) => {
      const worker = async (data: unknown, last: boolean) => {
        const { mail: id } = data as { mail: number };
        await deliver(id, last);
        if (id === mine) resolve();
      };
      jobs.open({ mail: worker }).catch(reject);
    });
    expect((await read(mine)).row.state).toBe('sent');
  } finally {
    await jobs.close();
  }
});

describe('files', () => {
  const PNG = 'iVBORw0KGgoAAAANSUhEUgAAAAEAAAABCAYAAAAfFcSJAAAADUlEQVR42mNk+M9QDwADhgGAWjR9awAAAABJRU5ErkJggg==';
  const attach = (order: OrderView, name: string, content: string | Buffer) =>
    desk.send('ida', documentRoutes.attachFile, {
      params: { order: order.id },
      body: { name, content: typeof content === 'string' ? content : content.toString('base64') },
    });

  test('a picture is attached, mailed, and kept since it was mailed', async () => {
    const order = await desk.order([['JAR', '10']]);
    const { reply } = await attach(order, 'C:\\Users\\x\\label.png', PNG);
    expect(reply.files).toMatchObject([{ name: 'label.png', media: 'image/png' }]);
    const file = reply.files[0]!.id;
    const response = await desk.request('ida', 'GET', `/api/files/${file}`);
    expect(response.headers.get('Content-Disposition')).toBe("attachment; filename*=UTF-8''label.png");
    expect(response.headers.get('X-Content-Type-Options')).toBe('nosniff');
    expect(response.headers.get('Content-Security-Policy')).toContain('sandbox');
    expect(Buffer.from(await response.arrayBuffer()).toString('base64')).toBe(PNG);
    await mail(order, { files: [file] });
    await deliver((await lastMail()).id);
    const removed = await desk.send('ida', documentRoutes.removeFile, { params: { order: order.id, file } });
    expect(removed.status).toBe(409);
  });

  test.each([
    ['a page that calls itself a picture', 'label.png', Buffer.from('<!doctype html><script>alert(1)</script>')],
    ['a drawing that can run', 'label.svg', Buffer.from('<svg xmlns="http://www.w3.org/2000/svg"><script/></svg>')],
    ['a program', 'order.pdf', Buffer.from('MZ\u0090\u0000\u0003', 'latin1')],
    ['an archive', 'order.zip', Buffer.from('504b0506000000000000000000000000000000000000', 'hex')],
    ['a script', 'order.txt', Buffer.from('#!/bin/sh\nrm -rf /\n')],
    ['a program as text', 'order.bat', Buffer.from('@echo off\r\ndel /q *.*\r\n')],
    ['text under the name of a program', 'order.txt.exe', Buffer.from('20 jars')],
    ['text without an ending', 'order', Buffer.from('20 jars')],
    ['a picture under the name of a page', 'label.html', Buffer.from(PNG, 'base64')],
    ['a drawing behind a comment', 'label.txt', Buffer.from('\ufeff <!-- a label -->\n<svg onload="alert(1)"/>')],
    ['a drawing behind a declaration', 'label.txt', Buffer.from('<?xml version="1.0"?><svg/>')],
    ['nothing', 'order.txt', Buffer.alloc(0)],
    ['more than 5 MB', 'order.txt', Buffer.alloc(5 * 1024 * 1024 + 1, 'a')],
  ])('%s is refused', async (_, name, content) => {
    const order = await desk.draft([]);
    const { status } = await attach(order, name, content);
    expect(status).toBe(422);
    expect((await desk.read(order)).files).toEqual([]);
  });

  test('the same file twice is told', async () => {
    const order = await desk.draft([]);
    await attach(order, 'order.txt', Buffer.from('20 jars'));
    const again = await attach(order, 'again.txt', Buffer.from('20 jars'));
    expect([again.status, again.problem.detail]).toEqual([409, 'The same file is attached already, as order.txt.']);
  });
});

test('a pro forma is kept as it was told', async () => {
  const draft = await desk.draft([['JAR', '10']]);
  const view = await desk.call('ida', documentRoutes.makeProForma, { params: { order: draft.id } });
  expect(view.papers).toMatchObject([{ kind: 'pro_forma' }]);
  const response = await desk.request('ida', 'GET', `/api/papers/${view.papers[0]!.id}`);
  expect(response.headers.get('Content-Type')).toBe('application/pdf');
  expect(
    Buffer.from(await response.arrayBuffer())
      .subarray(0, 5)
      .toString(),
  ).toBe('%PDF-');
});

test('after a raise and a cancellation the customer is owed another revision of the paper; the one before is not mailed any more', async () => {
  await desk.stockUp('JAR', '500');
  const order = await desk.order([['JAR', '20']]);
  const line = order.lines[0]!.id;
  const acknowledgements = (view: typeof order) => view.papers.filter((paper) => paper.kind === 'acknowledgement');
  const raised = await desk.call('ida', orderRoutes.raiseLine, {
    params: { order: order.id, line },
    body: { version: order.version, quantity: '30', claim: false, decision: { seen: [], accept: [] } },
  });
  expect(acknowledgements(raised)).toHaveLength(2);
  const cut = await desk.call('ida', orderRoutes.cancelOrder, {
    params: { order: order.id },
    body: { version: raised.version, line, quantity: '4', reason: 'other', purchases: 'keep' },
  });
  expect(acknowledgements(cut)).toHaveLength(3);
  const newest = cut.papers[0]!.id;
  const wish = { recipients: ['nora@wether.example'], subject: 'Your order', text: '', files: [] };
  const old = await desk.send('ida', mailRoutes.mailPaper, { params: { order: order.id }, body: { paper: order.papers[0]!.id, ...wish } });
  expect([old.status, old.problem.detail]).toEqual([409, 'Another paper has taken the place of this one: mail the newest.']);
  await desk.call('ida', mailRoutes.mailPaper, { params: { order: order.id }, body: { paper: newest, ...wish } });
  const response = await desk.request('ida', 'GET', `/api/papers/${newest}`);
  expect(response.headers.get('Content-Disposition')).toBe(`inline; filename="acknowledgement-${order.number}-3.pdf"`);
  // A change that the paper does not speak of makes none.
  const same = await desk.read(cut);
  expect(acknowledgements(same)).toHaveLength(3);
});
