import { integer, nullable, object, oneOf, put, text, email, note, quantity, flag, optional } from '@nockwright/contract/shape';
import { Subject, throwError } from 'rxjs';
import { ProblemError } from '../../api';
import { show, type TestScreen } from '../../test-screen';
import { fieldsOf, read, written, type RecordField } from './record-field';
import { recordOf, type RecordOf } from './record';
import { RecordForm } from './record-form';

const route = put('/things/{thing}', {
  summary: 'Change a thing',
  body: object({
    version: integer(1),
    name: text(20),
    mail: nullable(email()),
    days: integer(0, 180),
    most: nullable(quantity()),
    kind: oneOf('a', 'b'),
    ships: flag(),
    fee: optional(note(10)),
  }),
});
interface Body {
  readonly version: number;
  readonly name: string;
  readonly mail: string | null;
  readonly days: number;
  readonly most: string | null;
  readonly kind: string;
  readonly ships: boolean;
  readonly fee?: string;
}
const FIELDS = fieldsOf<Body>([
  { name: 'name', label: 'Name', most: 20 },
  { name: 'mail', label: 'Mail', empty: null },
  { name: 'days', label: 'Days until it leaves', called: 'Days', kind: 'whole' },
  { name: 'most', label: 'Most', kind: 'figure', empty: null },
  { name: 'ships', label: 'Ships', kind: 'flag' },
  { name: 'fee', label: 'Fee', under: 'ships' },
]);
const VALUE = { name: 'Jar', mail: 'a@b.example', days: 30, most: null, kind: 'a', ships: false, fee: '3' };

let screen: TestScreen<RecordForm<object>>;
let record: RecordOf<Body, object>;
let send: jest.Mock;
let reply: Subject<object>;

beforeEach(() => {
  jest.useFakeTimers();
  reply = new Subject();
  send = jest.fn(() => reply);
  record = { heading: 'A thing', act: 'Save', name: 'thing', subject: 1, fields: FIELDS, value: VALUE, version: 4, route, send };
  screen = show(RecordForm<object>, { record: recordOf(record) }, []);
});
afterEach(() => jest.useRealTimers());

test('what stands there is shown, and sent as the contract has it: numbers as numbers, nothing as null', () => {
  expect(['Name', 'Mail', 'Days until it leaves', 'Most'].map((label) => screen.field(label).value)).toEqual(['Jar', 'a@b.example', '30', '']);
  screen.type('Name', '  Lid ');
  screen.type('Mail', '');
  screen.type('Days until it leaves', '14');
  screen.click('Save');
  expect(send).toHaveBeenCalledWith({ name: 'Lid', mail: null, days: 14, most: null, ships: false, fee: '3' }, 4);
});

test('what is sent names the version that the form was opened on, whoever has changed it since', () => {
  screen.set('record', recordOf({ ...record, version: 5 }));
  screen.click('Save');
  expect(send).toHaveBeenCalledWith(expect.objectContaining({ name: 'Jar' }), 4);
});

test('what the contract refuses is said at its field and in one message, fields with one fault together; nothing is sent', () => {
  screen.type('Name', ' ');
  screen.type('Days until it leaves', '');
  screen.type('Mail', 'no mail');
  screen.click('Save');
  expect(screen.element.querySelector('[role=alert]')!.textContent).toBe('Name, Days: missing. Mail: expected an address as name@place.example.');
  expect(screen.element.querySelector('#thing-mail-fault')!.textContent).toBe('expected an address as name@place.example.');
  expect(screen.field('Mail').getAttribute('aria-describedby')).toBe('thing-mail-fault');
  expect(send).not.toHaveBeenCalled();
  screen.type('Name', 'Lid');
  screen.type('Days until it leaves', '1.5');
  screen.type('Mail', '');
  screen.click('Save');
  expect(screen.element.querySelector('[role=alert]')!.textContent).toBe('Days: expected a whole number.');
  screen.type('Days until it leaves', '181');
  screen.click('Save');
  expect(screen.text).toContain('Days: expected 180 or less.');
});

test('what the server refuses of a field is said at it, all else as it says it; what was typed stays', () => {
  send.mockReturnValueOnce(
    throwError(() => new ProblemError({ title: 'x', status: 422, detail: 'body.name: taken', errors: [{ field: 'body.name', message: 'taken' }] })),
  );
  screen.type('Name', 'Lid');
  screen.click('Save');
  expect(screen.text).toContain('Name: taken.');
  send.mockReturnValueOnce(
    throwError(() => new ProblemError({ title: 'x', status: 409, detail: 'Max was first.', errors: [{ field: 'body.version', message: 'is now 4' }] })),
  );
  screen.click('Save');
  expect(screen.text).toContain('Max was first.');
  expect(screen.field('Name').value).toBe('Lid');
});

test('pressed twice it is sent once; it says when it is done', () => {
  const saved = jest.fn();
  screen.fixture.componentInstance.saved.subscribe(saved);
  screen.click('Save');
  screen.press('Enter', document.body, { ctrlKey: true });
  expect(send).toHaveBeenCalledTimes(1);
  reply.next({ id: 1 });
  expect(saved).toHaveBeenCalledWith({ id: 1 });
});

test('choices that come late leave what is typed as it is', () => {
  screen.type('Name', 'Lid');
  screen.set('record', recordOf({ ...record, fields: [...FIELDS] }));
  expect(screen.field('Name').value).toBe('Lid');
  screen.click('Save');
  expect(send).toHaveBeenCalledWith(expect.objectContaining({ name: 'Lid' }), 4);
});

test('about something else it is another form: nothing typed for the one before is stored with the other', () => {
  screen.type('Name', 'Lid');
  screen.type('Mail', 'no mail');
  screen.click('Save');
  expect(screen.text).toContain('Mail: expected');
  screen.set('record', recordOf({ ...record, subject: 2, value: { ...VALUE, name: 'Box' }, version: 9 }));
  expect(screen.field('Name').value).toBe('Box');
  expect(screen.text).not.toContain('Mail: expected');
  screen.click('Save');
  expect(send).toHaveBeenCalledTimes(1);
  expect(send).toHaveBeenCalledWith(expect.objectContaining({ name: 'Box', mail: 'a@b.example' }), 9);
});

test('what it is about is removed where it may be, once, and a refusal is said', () => {
  expect(() => screen.button('Remove it')).toThrow();
  const remove = jest.fn(() => throwError(() => new Error('It is in use.')));
  screen.set('record', recordOf({ ...record, remove: { act: 'Remove it', send: remove } }));
  screen.click('Remove it');
  expect(screen.text).toContain('It is in use.');
  remove.mockReturnValueOnce(reply as never);
  screen.click('Remove it');
  screen.click('Remove it');
  expect(remove).toHaveBeenCalledTimes(2);
});

test('a field that belongs to a flag is there while that is set', () => {
  expect(() => screen.field('Fee')).toThrow();
  const box = screen.element.querySelector<HTMLInputElement>('input[type=checkbox]')!;
  box.click();
  screen.settle();
  expect(screen.field('Fee').value).toBe('3');
});

test.each<[string, Partial<RecordField>, string | boolean, unknown]>([
  ['text loses the spaces around it', {}, ' a ', { value: 'a' }],
  ['capitals where they are meant', { upper: true }, 'gb', { value: 'GB' }],
  ['a password is taken as it is', { kind: 'password' }, ' a ', { value: ' a ' }],
  ['a whole number', { kind: 'whole' }, '12', { value: 12 }],
  ['what is no number is left for the contract', { kind: 'whole' }, '1e3', { value: '1e3' }],
  ['nothing is null where that is meant', { empty: null }, '  ', { value: null }],
  ['by its own reader', { read: (typed) => ({ fault: `${typed}?` }) }, 'x', { fault: 'x?' }],
])('%s', (_, field, typed, expected) => expect(read({ name: 'a', label: 'A', ...field }, typed)).toEqual(expected));

test('what stands in a field', () => {
  expect(written({ name: 'a', label: 'A', kind: 'flag' }, undefined)).toBe(false);
  expect(written({ name: 'a', label: 'A', write: (days: readonly number[]) => days.join('+') }, [1, 2])).toBe('1+2');
  expect([written({ name: 'a', label: 'A' }, null), written({ name: 'a', label: 'A' }, 3)]).toEqual(['', '3']);
});
