import { customerRoutes } from '@nockwright/contract/customers';
import { of, throwError } from 'rxjs';
import { Api } from '../api';
import { RecordForm } from '../paper';
import { show, type TestScreen } from '../test-screen';
import { addressRecord } from './address-record';
import { CustomerNotes } from './customer-notes';
import { NewCustomer } from './new-customer';

const double = {
  customer: { id: 1, number: 'C1', prospect: false, name: 'Wether Hill', contact: '', phone: '', town: 'Combe', postcode: '' },
  alike: ['phone'],
};
const api = { call: jest.fn() };
const providers = [{ provide: Api, useValue: api }];
const sent = (route: unknown) => api.call.mock.calls.filter((call: unknown[]) => call[0] === route).map((call: unknown[]) => call[1]);

beforeEach(() => {
  jest.useFakeTimers();
  api.call.mockReset();
  api.call.mockImplementation((route: unknown) => (route === customerRoutes.findDoubles ? of([double]) : of({ id: 9 })));
});
afterEach(() => jest.useRealTimers());

describe('a new customer', () => {
  let form: TestScreen<NewCustomer>;
  const made = jest.fn();
  beforeEach(() => {
    made.mockReset();
    form = show(NewCustomer, { called: 'Pellow Bees', act: 'Make them' }, providers);
    form.fixture.componentInstance.made.subscribe(made);
  });

  it('has the name that was looked for; what is missing is named and has the focus', () => {
    expect(form.field('Name').value).toBe('Pellow Bees');
    form.click('Make them');
    expect(form.text).toContain('Street, Postcode, Town: are missing or not right.');
    expect(sent(customerRoutes.createCustomer)).toEqual([]);
  });

  it('is told to be known already, and taken for who they are', () => {
    form.type('Phone', '01632 960114');
    expect(sent(customerRoutes.findDoubles).at(-1)).toEqual({ query: { name: 'Pellow Bees', phone: '01632 960114' } });
    const known = jest.fn();
    form.fixture.componentInstance.known.subscribe(known);
    form.click('Wether Hill');
    expect(known).toHaveBeenCalledWith(double.customer);
  });

  const fill = () => {
    for (const [label, text] of [
      ['Street', '1 Quay'],
      ['Postcode', 'PI1 4QS'],
      ['Town', 'Pellow'],
      ['Country', 'gb'],
    ] as const)
      form.type(label, text);
  };

  it('is made once, however often the key is pressed', () => {
    fill();
    form.click('Make them');
    form.click('Make them');
    expect(sent(customerRoutes.createCustomer)).toMatchObject([{ body: { name: 'Pellow Bees', street: '1 Quay', country: 'GB', prospect: false } }]);
    expect(made).toHaveBeenCalledWith({ id: 9 });
  });

  it('keeps what was typed where it was refused', () => {
    fill();
    api.call.mockReturnValueOnce(throwError(() => new Error('body.email: expected an address')));
    form.click('Make them');
    expect(form.text).toContain('expected an address');
    expect(form.field('Street').value).toBe('1 Quay');
    expect(form.button('Make them').disabled).toBe(false);
  });
});

it('another address begins with their name and says what is missing', () => {
  const form = show(RecordForm, { record: addressRecord(api as unknown as Api, { id: 4, name: 'Wether Hill' }, 'Use address') }, providers);
  form.click('Use address');
  expect(form.text).toContain('Street, Postcode, Town: missing');
  for (const label of ['Street', 'Postcode', 'Town']) form.type(label, 'x');
  form.click('Use address');
  expect(sent(customerRoutes.addShipTo)).toMatchObject([{ params: { customer: 4 }, body: { name: 'Wether Hill', street: 'x' } }]);
});

describe('notes for whoever speaks to them next', () => {
  const note = { id: 5, text: 'ask for the pallets', by: 'Sam', at: '2027-03-08T10:00:00.000Z' };
  it('are taken away one by one, and another is left', () => {
    const notes = show(CustomerNotes, { customer: 4, reminders: [note] }, providers);
    const changed = jest.fn();
    notes.fixture.componentInstance.changed.subscribe(changed);
    notes.click('Close');
    expect(sent(customerRoutes.closeReminder)).toEqual([{ params: { customer: 4, reminder: 5 } }]);
    notes.type('For when they call next', ' new shed ');
    notes.click('Add note');
    expect(sent(customerRoutes.addReminder)).toEqual([{ params: { customer: 4 }, body: { text: 'new shed' } }]);
    expect(changed).toHaveBeenCalledTimes(2);
  });
});
