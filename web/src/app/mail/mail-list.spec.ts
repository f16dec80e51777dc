import { mailRoutes, type MailRow } from '@nockwright/contract/mail';
import { Router } from '@angular/router';
import { of } from 'rxjs';
import { Api } from '../api';
import { Live } from '../live';
import { show } from '../test-screen';
import { MailListPage } from './mail-list';

const row = (more: Partial<MailRow> = {}): MailRow => ({
  id: 3,
  about: { kind: 'order', id: 7, label: 'Q1006', name: 'Cleeve Mead' },
  paper: { id: 2, kind: 'quote' },
  recipients: ['joss@cleeve.invalid'],
  fates: [],
  subject: 'Quote Q1006',
  state: 'failed',
  attempts: 1,
  fault: '550 nobody is called so',
  by: 'Ida',
  at: '2027-03-08T10:00:00.000Z',
  sentAt: null,
  ...more,
});
const api = {
  call: jest.fn((route: unknown): unknown => {
    if (route === mailRoutes.listMail) return of({ rows: [row(), row({ id: 2, state: 'sent', fault: '' })], next: null, waiting: 0, failed: 1 });
    if (route === mailRoutes.readMail)
      return of({ row: row(), body: 'Good day', attachments: [{ name: 'quote-Q1006.pdf', href: '/api/papers/2' }], message: null });
    return of({ open: true });
  }),
};
const providers = [
  { provide: Api, useValue: api },
  { provide: Live, useValue: { kept: (load: () => unknown) => load() } },
];
const sent = (route: unknown) => api.call.mock.calls.filter((call) => (call as unknown[])[0] === route).map((call) => (call as unknown[])[1]);

beforeEach(() => {
  jest.useFakeTimers();
  api.call.mockClear();
});
afterEach(() => jest.useRealTimers());

it('says what became of each mail, and why', () => {
  const page = show(MailListPage, { at: 3 }, providers);
  expect(page.text).toContain('failed');
  expect(page.text).toContain('Tried 1 time. The post office said: 550 nobody is called so');
  expect(page.element.querySelector('a[href="/api/papers/2"]')?.textContent).toBe('quote-Q1006.pdf');
});

it('is tried again to the address that is right', () => {
  const page = show(MailListPage, { at: 3 }, providers);
  page.field('To').value = 'joss@cleeve.example';
  page.element.querySelector('aside form, [gloss] form, form')!.dispatchEvent(new Event('submit'));
  expect(sent(mailRoutes.retryMail)).toEqual([{ params: { mail: 3 }, body: { recipients: ['joss@cleeve.example'] } }]);
});

it('asks for what the address names, and keeps the mail it explains there', () => {
  const page = show(MailListPage, { q: 'cleeve', state: 'failed' }, providers);
  expect(sent(mailRoutes.listMail)).toEqual([{ query: { search: 'cleeve', state: 'failed' } }]);
  const navigate = jest.spyOn(page.fixture.debugElement.injector.get(Router), 'navigate').mockResolvedValue(true);
  page.element.querySelector<HTMLElement>('tbody tr')!.dispatchEvent(new Event('focus'));
  expect(navigate.mock.calls[0]![1]).toMatchObject({ queryParams: { at: 3 } });
});

it('lets only a manager close the post office', () => {
  expect(show(MailListPage, {}, providers).text).not.toContain('Post office');
});

it('closes the post office for a manager', () => {
  const page = show(MailListPage, {}, providers, 'manager');
  page.click('Close post office');
  expect(sent(mailRoutes.setPostOffice)).toEqual([{ body: { open: false } }]);
});
