import { supplyRoutes, type MessageView, type PurchaseView } from '@nockwright/contract/supply';
import { show, testApi } from '../../test-screen';
import { MessageList } from './message-list';
import { StandInForm } from './stand-in-form';
import { SupplierTalk } from './supplier-talk';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

const message: MessageView = {
  id: 4,
  supplier: { code: 'MELLISH', name: 'Mellish Feeds' },
  direction: 'in',
  kind: 'order_response',
  purchase: { id: 26, number: 'P7626' },
  number: 'A-1',
  state: 'taken',
  findings: [
    { about: 'changed', lineNo: 1, item: 'FEE-FON-25', due: { day: '2027-03-25', was: '2027-03-15' }, open: null, cost: null },
    { about: 'remark', lineNo: null, item: null, words: 'our boiler is being mended' },
  ],
  hurts: [274, 275],
  needsLook: true,
  at: '2027-03-09T08:05:00.000Z',
};
const refused: MessageView = {
  ...message,
  id: 5,
  kind: 'unreadable',
  purchase: null,
  state: 'refused',
  findings: [{ about: 'words', words: 'line 1: broken' }],
  hurts: [],
};
const went: MessageView = { ...message, id: 3, direction: 'out', kind: 'order', state: 'written', findings: [], hurts: [], needsLook: false };

it('an answer says sentence by sentence what is not as ordered, whom it hurts, and is seen to by key', () => {
  const { api, providers, answers } = testApi();
  answers([supplyRoutes.listMessages, { rows: [message, refused, went], next: null, toLook: 2 }], [supplyRoutes.lookedAt, message]);
  const screen = show(MessageList, {}, providers);
  expect(screen.text).toContain('now expected Thu 25 Mar, was Mon 15 Mar.');
  expect(screen.text).toContain('“our boiler is being mended”');
  expect([...screen.element.querySelectorAll('a')].find((link) => link.textContent.includes('Route the shortages: 2 lines'))?.getAttribute('href')).toBe(
    '/shortages?lines=274,275',
  );
  screen.press('l');
  expect(api.call).toHaveBeenLastCalledWith(supplyRoutes.lookedAt, { params: { message: 4 } });
  expect(screen.text).not.toContain('Stand-in for suppliers');
});

it('a file that names no purchase of ours is told as that, and one that went is nobody’s work', () => {
  const { api, providers, answers } = testApi();
  answers([supplyRoutes.listMessages, { rows: [refused, went], next: null, toLook: 1 }]);
  const screen = show(MessageList, { which: 'all' }, providers);
  expect(screen.text).toContain('none of ours');
  expect(screen.text).toContain('refused: review it');
  screen.element.querySelectorAll<HTMLElement>('tbody tr')[1]!.focus();
  screen.settle();
  const calls = api.call.mock.calls.length;
  screen.press('l');
  expect(api.call.mock.calls).toHaveLength(calls);
});

it('an answer that waits is taken or left, by key or on its purchase, and is not seen to before', () => {
  const { api, providers, answers } = testApi();
  const held: MessageView = {
    ...message,
    id: 6,
    state: 'held',
    findings: [{ about: 'over_ordered', lineNo: 1, item: 'FEE-FON-25', quantity: '55', more: '15' }],
    hurts: [],
  };
  answers([supplyRoutes.listMessages, { rows: [held], next: null, toLook: 1 }], [supplyRoutes.decideAnswer, held]);
  const screen = show(MessageList, {}, providers);
  expect(screen.text).toContain('needs a decision');
  const calls = api.call.mock.calls.length;
  screen.press('l');
  expect(api.call.mock.calls).toHaveLength(calls);
  screen.press('u');
  expect(api.call).toHaveBeenLastCalledWith(supplyRoutes.decideAnswer, { params: { message: 6 }, body: { take: false } });
  screen.click('Accept response');
  expect(api.call).toHaveBeenLastCalledWith(supplyRoutes.decideAnswer, { params: { message: 6 }, body: { take: true } });
  const purchase = { id: 26, number: 'P7626', messages: [held], mails: [], papers: [], notices: [] } as unknown as PurchaseView;
  const sheet = show(SupplierTalk, { purchase }, providers);
  expect(sheet.text).toContain('Needs a decision');
  sheet.click('Decline response');
  expect(api.call).toHaveBeenLastCalledWith(supplyRoutes.decideAnswer, { params: { message: 6 }, body: { take: false } });
});

it('finance sees answers and cannot see to them', () => {
  const { providers, answers } = testApi();
  answers([supplyRoutes.listMessages, { rows: [message], next: null, toLook: 1 }]);
  const screen = show(MessageList, {}, providers, 'finance');
  expect(screen.text).not.toContain('Mark reviewed');
});

it('the manager sets what each supplier of the stand-in does; no seconds but whole ones are sent', () => {
  const { api, providers, lastBody, answers } = testApi();
  const view = {
    seconds: 30,
    suppliers: [
      { code: 'MELLISH', name: 'Mellish Feeds', exchanges: true, habit: 'as_asked' },
      { code: 'CORVANE', name: 'Corvane Workwear', exchanges: false, habit: 'silent' },
    ],
  };
  answers([supplyRoutes.readStandIn, view], [supplyRoutes.setStandIn, { ...view, seconds: 5 }]);
  const screen = show(StandInForm, {}, providers, 'manager');
  expect(screen.text).not.toContain('Corvane');
  screen.type('Seconds', 'soon');
  screen.click('Save');
  expect(screen.text).toContain('expected a whole number');
  expect(api.call).toHaveBeenCalledTimes(1);
  screen.type('Seconds', '5');
  screen.click('Save');
  expect(lastBody()).toEqual({
    seconds: 5,
    suppliers: [
      { code: 'MELLISH', exchanges: true, habit: 'as_asked' },
      { code: 'CORVANE', exchanges: false, habit: 'silent' },
    ],
  });
  expect(screen.text).toContain('It answers so from now on.');
});

it('a purchase shows first what has to be looked at, then what was told and heard', () => {
  const { api, providers, answers } = testApi();
  answers([supplyRoutes.lookedAt, message]);
  const purchase = {
    id: 26,
    number: 'P7626',
    messages: [message, went],
    mails: [{ id: 9, subject: 'x', recipients: ['orders@mellish.example'], state: 'sent', at: '2027-03-05T10:15:00.000Z' }],
    papers: [{ id: 3, at: '2027-03-05T10:15:00.000Z' }],
    notices: [{ id: 1, number: 'P7626-D1', day: '2027-03-09', tracking: 'TRK1', lines: [] }],
  } as unknown as PurchaseView;
  const screen = show(SupplierTalk, { purchase }, providers);
  expect(screen.text).toMatch(/Not as ordered.*Inbound.*TRK1.*Messages/);
  expect(screen.text).toContain('mail to orders@mellish.example Fri 5 Mar, sent');
  screen.press('l');
  expect(api.call).toHaveBeenLastCalledWith(supplyRoutes.lookedAt, { params: { message: 4 } });
});
