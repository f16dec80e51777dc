import { ledgerRoutes, type EntryRow, type Reconciliation } from '@nockwright/contract/ledger';
import { show, testApi } from '../test-screen';
import { EntryList } from './entry-list';
import { paperLink } from './entry-words';
import { LedgerPage } from './ledger-page';
import { monthInWords, ReconciliationPage } from './reconciliation-page';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

it('shows every account with its balance, and on which side it stands', () => {
  const { answers, providers } = testApi();
  const account = (code: string, name: string, balance: string) => ({ code, name, kind: 'asset' as const, debit: '5.00', credit: '0.00', balance });
  answers([ledgerRoutes.readAccounts, { currency: 'EUR', accounts: [account('1200', 'Stock', '1234.50'), account('2000', 'Payables', '-7.00')] }]);
  const page = show(LedgerPage, {}, providers, 'finance');
  expect(page.text).toContain('1,234.50 Dr');
  expect(page.text).toContain('7.00 Cr');
});

const entry: EntryRow = {
  id: 9,
  day: '2027-03-08',
  postedAt: '2027-03-08T10:00:00Z',
  kind: 'invoice',
  reference: 'I12',
  paper: { kind: 'invoice', key: '3' },
  lines: [
    { account: '1100', name: 'Receivables', item: '', percent: null, debit: '12.00', credit: '0.00' },
    { account: '2100', name: 'Output tax', item: '', percent: '20', debit: '0.00', credit: '12.00' },
  ],
};

it('an entry leads to its paper, its lines say debit and credit', () => {
  const { answers, providers } = testApi();
  answers([ledgerRoutes.listEntries, { entries: [entry], more: false }]);
  const page = show(EntryList, { account: '1100' }, providers, 'finance');
  jest.advanceTimersByTime(200);
  page.settle();
  expect(page.text).toContain('1100 Receivables');
  expect(page.text).toContain('2100 Output tax, 20 %');
  expect(page.element.querySelector('a.code')!.getAttribute('href')).toBe('/invoices/3');
});

it.each([
  [null, null],
  [{ kind: 'order', key: '7' }, ['/orders', '7']],
  [{ kind: 'purchase', key: '7' }, ['/supply', '7']],
  [{ kind: 'transfer', key: '7' }, ['/supply/transfers', '7']],
  [{ kind: 'assembly', key: '7' }, ['/supply/assemblies', '7']],
  [{ kind: 'customer', key: '7' }, ['/customers', '7', 'money']],
  [{ kind: 'item', key: 'JAR' }, ['/items', 'JAR']],
] as const)('%j is seen at %j', (paper, link) => {
  expect(paperLink({ paper })).toEqual(link);
});

describe('the reconciliation', () => {
  const check = (name: string, different: number): Reconciliation['checks'][number] => ({
    name,
    what: `What ${name} is.`,
    ledger: '10.00',
    books: different ? '9.00' : '10.00',
    different,
    rows: different ? [{ label: 'JAR at MAR', ledger: '10.00', books: '9.00', difference: '1.00' }] : [],
  });
  const months = [
    { month: '2027-03-01', entries: 4, closed: null, closable: false },
    { month: '2027-02-01', entries: 2, closed: null, closable: true },
  ];
  const screen = (...checks: Reconciliation['checks'][number][]) => {
    const made = testApi();
    made.answers(
      [ledgerRoutes.reconcile, { currency: 'EUR', checks }],
      [ledgerRoutes.listMonths, months],
      [ledgerRoutes.closeMonth, [months[0]!, { ...months[1]!, closed: { at: '2027-03-09T10:00:00Z', by: 'Fay' }, closable: false }]],
    );
    return { ...made, page: show(ReconciliationPage, {}, made.providers, 'finance') };
  };

  it('says what differs, and closes no month until it does not', () => {
    const { page } = screen(check('Stock', 1), check('Tax', 0));
    expect(page.text).toContain('No month can be closed until they agree.');
    expect(page.button('Close February 2027').disabled).toBe(true);
    page.press('c');
    expect(page.text).not.toContain('by Fay');
    page.element.querySelector<HTMLElement>('tbody tr')!.click();
    page.settle();
    expect(page.text).toContain('JAR at MAR');
  });

  it('closes the oldest month that is over', () => {
    const { page, lastBody } = screen(check('Stock', 0));
    expect(page.text).toContain('Ledger and books agree.');
    page.press('c');
    expect(lastBody()).toEqual({ month: '2027-02-01' });
    expect(page.text).toContain('by Fay');
    expect(monthInWords('2027-12-01')).toBe('December 2027');
  });
});
