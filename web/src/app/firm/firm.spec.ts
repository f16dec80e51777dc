import { paymentRoutes } from '@nockwright/contract/billing';
import { firmRoutes, type Firm } from '@nockwright/contract/firm';
import { of, Subject, throwError } from 'rxjs';
import { Api, ProblemError } from '../api';
import { Live } from '../live';
import { show } from '../test-screen';
import { FirmPage } from './firm-page';

const firm = (more: Partial<Firm> = {}): Firm => ({
  name: 'Honey & Sons',
  code: 'HONEY',
  street: '2 Hill',
  postcode: 'MB1 2AB',
  town: 'Combe',
  country: 'GB',
  phone: '01632 960111',
  email: 'orders@honey.example',
  taxNumber: '',
  gs1Prefix: '',
  footer: '',
  currency: 'EUR',
  currencySettled: true,
  version: 4,
  series: [
    { name: 'order', prefix: '', next: 20301 },
    { name: 'order/portal', prefix: 'W', next: 3001 },
  ],
  ...more,
});
const answers = new Map<unknown, unknown>();
const api = { call: jest.fn((route: unknown): unknown => answers.get(route)) };
const read = new Subject<Firm>();
const providers = [
  { provide: Api, useValue: api },
  { provide: Live, useValue: { kept: () => read } },
];
const sent = (route: unknown) => api.call.mock.calls.filter((call) => (call as unknown[])[0] === route).map((call) => (call as unknown[])[1]);

beforeEach(() => {
  jest.useFakeTimers();
  api.call.mockClear();
  answers.clear();
  answers.set(firmRoutes.firmHistory, of([]));
  answers.set(paymentRoutes.listTaxClasses, of([{ code: 'standard', name: 'Standard rate', percent: '20' }]));
});
afterEach(() => jest.useRealTimers());

function open(of: Firm = firm()) {
  const page = show(FirmPage, {}, providers, 'manager');
  read.next(of);
  page.settle();
  return page;
}

it('says how papers name the firm, and what is not given; its series in words', () => {
  const page = open();
  expect(page.text).toContain('Honey & Sons');
  expect(page.text).toContain('2 Hill, MB1 2AB Combe, GB');
  expect(page.text).toContain('Tax number');
  expect(page.text).toContain('not given');
  expect(page.text).toContain('orders from portal');
  expect(page.text).toContain('W3001');
});

it('is edited as a whole, under the version that was seen', () => {
  answers.set(firmRoutes.setFirm, of(firm({ phone: '01632 960222', version: 5 })));
  const page = open();
  page.press('e');
  expect(page.text).toContain('the currency cannot be changed any more');
  page.type('Phone', ' 01632 960222 ');
  // Somebody else has changed it meanwhile: what is typed stands, and so does what was seen.
  read.next(firm({ town: 'Elsewhere', version: 5 }));
  page.settle();
  page.click('Save firm');
  expect(sent(firmRoutes.setFirm)).toMatchObject([{ body: { phone: '01632 960222', town: 'Combe', version: 4 } }]);
  expect(page.text).toContain('01632 960222');
});

it('does not send what lacks a name, and shows what the server refuses', () => {
  answers.set(
    firmRoutes.setFirm,
    throwError(() => new ProblemError({ title: 'Invalid', status: 422, detail: 'body.country: expected two capital letters' })),
  );
  const page = open(firm({ currencySettled: false }));
  page.press('e');
  page.type('Name', ' ');
  page.click('Save firm');
  expect(page.text).toContain('Name: missing.');
  expect(sent(firmRoutes.setFirm)).toEqual([]);
  page.type('Name', 'Honey');
  page.type('Currency, three letters', 'gbp');
  page.click('Save firm');
  expect(sent(firmRoutes.setFirm)).toMatchObject([{ body: { name: 'Honey', currency: 'GBP' } }]);
  expect(page.text).toContain('expected two capital letters');
});

it('has each series edited by the row that has the focus', () => {
  answers.set(firmRoutes.setSeries, of(firm({ version: 5 })));
  const page = open();
  page.element.querySelectorAll('tbody tr')[1]!.dispatchEvent(new Event('focus'));
  page.settle();
  expect(page.text).toContain('Orders from portal made next: W3001, then W3002.');
  page.press('n');
  page.type('Next number', '12a');
  page.click('Save series');
  expect(page.text).toContain('Next number: expected a whole number.');
  page.type('Next number', '4000');
  page.type('Prefix', 'web-');
  page.click('Save series');
  expect(sent(firmRoutes.setSeries)).toEqual([{ body: { version: 4, name: 'order/portal', prefix: 'WEB-', next: 4000 } }]);
});

it('a tax rate is edited by its row', () => {
  answers.set(paymentRoutes.setTaxClass, of([{ code: 'standard', name: 'Standard rate', percent: '19' }]));
  const page = open();
  const row = [...page.element.querySelectorAll('tr')].find((one) => one.textContent.includes('Standard rate'))!;
  page.press('Enter', row);
  page.type('Rate, per cent', '19');
  page.click('Save tax rate');
  expect(sent(paymentRoutes.setTaxClass)).toEqual([{ body: { code: 'standard', name: 'Standard rate', percent: '19' } }]);
});
