import { signal } from '@angular/core';
import { of } from 'rxjs';
import { show, type TestScreen } from '../test-screen';
import { MailForm } from './mail-form';
import { OrderPapers } from './order-papers';
import { testLine, testOrder } from './test-order';
import { storeProviders } from './test-store';

const CONTACTS = [
  { id: 1, name: 'Nora Pell', role: 'buyer', phone: '', email: 'nora@b.example' },
  { id: 2, name: 'Jo', role: '', phone: '', email: '' },
];
const store = {
  fault: signal(''),
  busy: signal(false),
  mail: jest.fn(),
  makeProForma: jest.fn(),
  contacts: jest.fn(() => of(CONTACTS)),
  removeFile: jest.fn(),
  attachFile: jest.fn(),
};
const paper = { id: 7, kind: 'acknowledgement', at: '2027-03-09T09:30:00.000Z', mails: [] } as const;
const file = { id: 3, name: 'label.png', media: 'image/png', size: 2048, by: 'Ida', at: '2027-03-09T09:30:00.000Z' };
const order = testOrder({ state: 'released', number: '20400', papers: [paper], files: [file], spoken: 'All leaves on Friday.', lines: [testLine()] });
const providers = storeProviders(store);

beforeEach(() => {
  jest.useFakeTimers();
  store.mail.mockReset();
  store.fault.set('');
});
afterEach(() => jest.useRealTimers());

describe('mailing a paper', () => {
  let form: TestScreen<MailForm>;
  beforeEach(() => (form = show(MailForm, { order }, providers)));

  it('begins with their address and what would be said on the phone', () => {
    expect(form.field('To').value).toBe('a@b.example');
    expect(form.field('Subject').value).toBe('Your order 20400');
    expect(form.field('Text').value).toContain('All leaves on Friday.');
  });

  it('keeps what was typed while the order changes below it', () => {
    form.type('Subject', 'About your jars');
    form.set('order', { ...order, version: 9 });
    expect(form.field('Subject').value).toBe('About your jars');
  });

  it('goes to several, with the files that are chosen', () => {
    form.type('To', 'one@b.example; two@b.example');
    form.element.querySelector<HTMLInputElement>('input[type=checkbox]')!.click();
    form.click('Send mail');
    expect(store.mail.mock.calls[0]![0]).toMatchObject({ paper: 7, recipients: ['one@b.example', 'two@b.example'], files: [3] });
  });

  it('offers the contacts who have an address and do not stand there yet', () => {
    form.click('Add Nora Pell, buyer');
    expect(form.field('To').value).toBe('a@b.example, nora@b.example');
    expect(form.text).not.toContain('Add ');
  });

  it.each([
    ['nobody', '', 'To whom?'],
    ['no address', 'one at b', 'one, at, b: expected an address'],
  ])('%s is told, and nothing goes out', (_, to, words) => {
    form.type('To', to);
    form.click('Send mail');
    expect(form.text).toContain(words);
    expect(store.mail).not.toHaveBeenCalled();
  });
});

describe('papers and files of an order', () => {
  it('say to whom each went and what became of it', () => {
    const mails = [{ id: 1, recipients: ['a@b.example'], state: 'failed', at: '' } as const];
    const papers = show(OrderPapers, { order: { ...order, papers: [{ ...paper, mails }] } }, providers);
    expect(papers.text).toContain('failed: a@b.example');
    expect(papers.text).toContain('label.png');
    expect(papers.text).toContain('2 kB');
  });

  it('refuse a file that is too large before it is sent', () => {
    const papers = show(OrderPapers, { order }, providers);
    const field = papers.element.querySelector<HTMLInputElement>('input[type=file]')!;
    Object.defineProperty(field, 'files', { value: [{ name: 'plan.pdf', size: 6 * 1024 * 1024 }] });
    field.dispatchEvent(new Event('change'));
    expect(store.fault()).toBe('plan.pdf has 6.0 MB; at most 5 MB are taken.');
    expect(store.attachFile).not.toHaveBeenCalled();
  });

  it('are only read by who does not sell', () => {
    const papers = show(OrderPapers, { order }, providers, 'warehouse');
    expect(papers.element.querySelectorAll('button')).toHaveLength(0);
  });
});
