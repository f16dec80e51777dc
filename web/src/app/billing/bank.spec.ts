import { bankRoutes, paymentRoutes, type BankEntryView } from '@nockwright/contract/billing';
import { customerRoutes } from '@nockwright/contract/customers';
import { show, testApi } from '../test-screen';
import { BankPage } from './bank-page';
import { goesInWords, whyInWords } from './bank-words';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

const entry = (id: number, more: Partial<BankEntryView> = {}): BankEntryView => ({
  id,
  day: '2027-03-08',
  amount: '80.00',
  direction: 'in',
  party: 'Ashgrove',
  partyAccount: '',
  reference: '',
  text: 'thanks',
  file: 'bank.xml',
  state: 'waiting',
  why: '',
  customer: null,
  proposals: [],
  ...more,
});
const proposal = (customer: number, name: string, sure = false) => ({
  customer,
  name,
  settled: [{ invoice: customer + 10, number: `I${customer}`, open: '80.00', amount: '80.00', discount: '0.00' }],
  onAccount: '0.00',
  why: [{ kind: 'name' as const }, { kind: 'amount' as const, invoice: `I${customer}` }],
  sure,
});
const screen = (rows: readonly BankEntryView[]) => {
  const made = testApi();
  made.answers(
    [bankRoutes.listBankEntries, { rows: [...rows], more: false, waiting: rows.length, sure: 1, currency: 'EUR' }],
    [bankRoutes.bookBankEntry, { waiting: 0 }],
    [bankRoutes.bookSureEntries, { booked: 2, left: 0 }],
    [bankRoutes.setBankEntryAside, { waiting: 0 }],
    [bankRoutes.takeBankEntryUp, { waiting: 1 }],
    [customerRoutes.findCustomers, []],
    [paymentRoutes.proposePayment, { settled: [], onAccount: '80.00' }],
  );
  const page = show(BankPage, {}, made.providers, 'finance');
  return { ...made, page };
};

it('shows whose a doubtful movement may be, side by side; the digit chooses, one key books', () => {
  const { page, lastBody } = screen([entry(1, { proposals: [proposal(1, 'Ashgrove'), proposal(2, 'Wetherhill')] })]);
  expect(page.text).toContain('doubtful');
  page.element.querySelector<HTMLElement>('tbody tr')!.click();
  page.settle();
  expect(page.text).toContain('the same name, as much as I1');
  page.press('2');
  expect(page.text).toContain('Book for Wetherhill');
  page.press('Enter', document.body, { ctrlKey: true });
  expect(lastBody()).toEqual({ customer: 2, settled: [{ invoice: 12, amount: '80.00', discount: '0.00' }] });
});

it('books all that are sure by one key', () => {
  const { page } = screen([entry(1, { proposals: [proposal(1, 'Ashgrove', true)] })]);
  expect(page.text).toContain('sure');
  page.press('b');
  expect(page.text).toContain('Booked 2 payments.');
});

it('what went out is not booked, but set aside with why', () => {
  const { page, lastBody } = screen([entry(1, { direction: 'out' })]);
  page.element.querySelector<HTMLElement>('tbody tr')!.click();
  page.settle();
  expect(page.text).toContain('This went out');
  page.press('Enter', document.body, { ctrlKey: true });
  page.press('x');
  page.type('Why', 'account fee');
  page.press('Enter', document.body, { ctrlKey: true });
  expect(lastBody()).toEqual({ why: 'account fee' });
});

it('words say why, and where it goes', () => {
  expect(whyInWords([{ kind: 'reference', invoice: 'I1' }, { kind: 'account' }])).toBe('the reference of I1, paid from this account before');
  const settled = [
    { invoice: 1, number: 'I1', open: '10.00', amount: '9.80', discount: '0.20' },
    { invoice: 2, number: 'I2', open: '10.00', amount: '4.00', discount: '0.00' },
  ];
  expect(goesInWords({ settled })).toBe('I1 less discount, I2 in part');
});
