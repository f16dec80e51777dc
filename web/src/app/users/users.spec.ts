import { accessRoutes, type Account } from '@nockwright/contract/access';
import { of, throwError } from 'rxjs';
import { Session } from '../access';
import { Api, ProblemError } from '../api';
import { Live } from '../live';
import { show } from '../test-screen';
import { OwnPage } from './own-page';
import { browserWords } from './session-list';
import { UserList } from './user-list';

const here = {
  id: 5,
  from: 'Mozilla/5.0 (X11; Linux x86_64) Gecko/20100101 Firefox/140.0',
  openedAt: '2027-03-09T08:00:00Z',
  seenAt: '2027-03-09T09:00:00Z',
  here: true,
};
const other = { ...here, id: 6, here: false, from: 'Mozilla/5.0 (iPhone; CPU iPhone OS 19_0 like Mac OS X) Version/19.0 Safari/604.1' };
const account = (more: Partial<Account> = {}): Account => ({
  id: 2,
  login: 'sam',
  name: 'Sam Ostler',
  role: 'coordinator',
  disabled: false,
  secondFactor: true,
  mustChangePassword: false,
  sessions: [other],
  version: 3,
  ...more,
});
const answers = new Map<unknown, unknown>();
const api = { call: jest.fn((route: unknown): unknown => answers.get(route) ?? of({ done: true })) };
const session = {
  user: () => ({ login: 'ida', name: 'Ida', role: 'manager', today: '2027-03-09', mustChangePassword: due }),
  passwordChosen: jest.fn(),
  inOffice: () => true,
};
let due = false;
const providers = [
  { provide: Api, useValue: api },
  { provide: Live, useValue: { kept: (load: () => unknown) => load() } },
];
const sent = (route: unknown) => api.call.mock.calls.filter((call) => (call as unknown[])[0] === route).map((call) => (call as unknown[])[1]);

beforeEach(() => {
  jest.useFakeTimers();
  due = false;
  session.passwordChosen.mockReset();
  api.call.mockClear();
  answers.clear();
  answers.set(accessRoutes.listUsers, of([account(), account({ id: 3, login: 'nell', name: 'Nell', disabled: true, secondFactor: false, sessions: [] })]));
  answers.set(accessRoutes.userHistory, of([]));
  answers.set(accessRoutes.ownSessions, of([here, other]));
  answers.set(accessRoutes.readSecondFactor, of({ active: false, begun: null }));
});
afterEach(() => jest.useRealTimers());

describe('the users', () => {
  it('are listed with role and state; the one that has the focus is explained, and shut out by a button', () => {
    const page = show(UserList, {}, providers, 'manager');
    expect(page.text).toContain('disabled');
    page.element.querySelector<HTMLElement>('tbody tr')!.dispatchEvent(new Event('focus'));
    page.settle();
    expect(page.text).toContain('Safari on iOS');
    page.click('Disable user');
    page.click('End all sessions');
    page.click('Remove second factor');
    page.click('End session with Safari on iOS');
    expect(sent(accessRoutes.changeUser)).toEqual([{ params: { user: 2 }, body: { version: 3, disabled: true } }]);
    expect(sent(accessRoutes.endSessions)).toEqual([
      { params: { user: 2 }, body: {} },
      { params: { user: 2 }, body: { session: 6 } },
    ]);
    expect(sent(accessRoutes.removeSecondFactor)).toHaveLength(1);
  });

  it('get a new one by key; what is refused keeps what was typed', () => {
    const page = show(UserList, {}, providers, 'manager');
    answers.set(
      accessRoutes.createUser,
      throwError(() => new ProblemError({ title: 'x', status: 422, detail: 'body.login: sam is taken', errors: [] })),
    );
    page.press('a');
    page.type('Login name', 'sam');
    page.type('Full name', 'Sam Second');
    page.type('Password, at least 12 characters', 'given by mona 1');
    page.press('Enter', document.body, { ctrlKey: true });
    expect(sent(accessRoutes.createUser)).toEqual([{ body: { login: 'sam', name: 'Sam Second', role: 'coordinator', password: 'given by mona 1' } }]);
    expect(page.text).toContain('sam is taken');
    expect(page.field('Full name').value).toBe('Sam Second');
  });

  it('say who else changed them first', () => {
    answers.set(
      accessRoutes.changeUser,
      throwError(() => new ProblemError({ title: 'x', status: 409, detail: 'You cannot disable yourself.', errors: [] })),
    );
    const page = show(UserList, {}, providers, 'manager');
    page.element.querySelector<HTMLElement>('tbody tr')!.dispatchEvent(new Event('focus'));
    page.settle();
    page.click('Disable user');
    expect(page.text).toContain('You cannot disable yourself.');
  });
});

describe('one’s own log-in', () => {
  const open = () => show(OwnPage, {}, [...providers, { provide: Session, useValue: session }]);
  const submit = (page: ReturnType<typeof open>, name: string) => {
    page.element.querySelector(`form[aria-label="${name}"]`)!.dispatchEvent(new Event('submit'));
    page.settle();
  };

  it('changes the password when the new one is typed twice alike', () => {
    const page = open();
    page.type('Current password', 'old one here');
    page.type('New password, at least 12 characters', 'a password of mine');
    page.type('Repeat new password', 'a password of min');
    submit(page, 'Password');
    expect(page.text).toContain('two new passwords differ');
    expect(sent(accessRoutes.changePassword)).toEqual([]);
    page.type('Repeat new password', 'a password of mine');
    submit(page, 'Password');
    expect(sent(accessRoutes.changePassword)).toEqual([{ body: { old: 'old one here', password: 'a password of mine' } }]);
    expect(page.text).toContain('Password changed.');
    expect(session.passwordChosen).toHaveBeenCalled();
  });

  it('shows nothing else to whom somebody gave a password', () => {
    due = true;
    const page = open();
    expect(page.text).toContain('set by a manager');
    expect(page.text).not.toContain('Second factor');
    expect(sent(accessRoutes.ownSessions)).toEqual([]);
  });

  it('goes from a key over a first code to codes at every log-in', () => {
    answers.set(accessRoutes.readSecondFactor, of({ active: false, begun: { key: 'GEZDGNBV', address: 'otpauth://totp/x' } }));
    const page = open();
    expect(page.text).toContain('GEZDGNBV');
    page.type('Six-digit code', ' 287082 ');
    submit(page, 'Second factor');
    expect(sent(accessRoutes.confirmSecondFactor)).toEqual([{ body: { code: '287082' } }]);
  });

  it('ends a session elsewhere, not the one that asks', () => {
    const page = open();
    expect(page.element.querySelectorAll('section button')).toHaveLength(1);
    page.click('End session with Safari on iOS');
    expect(sent(accessRoutes.endOwnSession)).toEqual([{ params: { session: 6 }, body: {} }]);
  });
});

it.each([
  ['Mozilla/5.0 (Windows NT 10.0; Win64; x64) AppleWebKit/537.36 (KHTML, like Gecko) Chrome/141.0 Safari/537.36 Edg/141.0', 'Edge on Windows'],
  ['curl/8.5.0', 'curl/8.5.0'],
  ['', 'a program'],
])('a browser that says %s is called %s', (agent, words) => expect(browserWords(agent)).toBe(words));
