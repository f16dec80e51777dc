import { shortageRoutes, type ConsentView } from '@nockwright/contract/shortages';
import { throwError } from 'rxjs';
import { show, testApi } from '../test-screen';
import { QuestionList } from './question-list';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

const asked = {
  id: 5,
  order: 101,
  number: '20387',
  line: 241,
  lineNo: 1,
  item: 'FRK-UNC-1',
  customer: 'Old Mill Wholefoods',
  customerId: 7,
  contact: 'Perpetua Gale',
  phone: '01632 960217',
  question: 'May we send 154 in April?',
  answerBy: '2027-03-08',
  overdue: true,
  byMail: true,
  askedBy: 'Ida Perrin',
  state: 'open',
  outcome: null,
  note: '',
} as unknown as ConsentView;
const answered = {
  ...asked,
  id: 6,
  lineNo: null,
  line: null,
  state: 'part',
  outcome: { done: [], owed: null, failed: 'sold out' },
  note: 'only sixty',
} as unknown as ConsentView;

function open(maySell = true, rows: readonly ConsentView[] = [asked, answered]) {
  const test = testApi();
  test.answers([shortageRoutes.listConsents, rows], [shortageRoutes.answerConsent, asked], [shortageRoutes.withdrawConsent, asked]);
  return { ...test, screen: show(QuestionList, { maySell }, test.providers) };
}

it('says what was asked of whom, until when, and what came of an answer', () => {
  const { screen } = open();
  expect(screen.text).toContain('no answer, wanted by Mon 8 Mar');
  expect(screen.text).toContain('asked by mail, Ida Perrin');
  expect(screen.text).toContain('yes to a part');
  expect(screen.text).toContain('could not be done: sold out');
  const links = [...screen.element.querySelectorAll('a')].map((link) => link.getAttribute('href'));
  expect(links).toEqual(['/customers/7', '/orders/101?at=241', '/customers/7', '/orders/101']);
});

it.each([
  ['Answer yes', 'accept'],
  ['No', 'refuse'],
])('what is said on the phone is recorded: %s', (words, answer) => {
  const { screen, api } = open();
  [...screen.element.querySelectorAll('button')].find((button) => button.textContent.trim() === words)!.click();
  screen.settle();
  expect(api.call).toHaveBeenCalledWith(shortageRoutes.answerConsent, { params: { consent: 5 }, body: { answer } });
});

it('a question is taken back, an answer that was acted on is dealt with', () => {
  const { screen, api } = open();
  screen.click('Withdraw question');
  screen.click('Close question');
  expect(api.call.mock.calls.filter(([route]) => route === shortageRoutes.withdrawConsent).map(([, { params }]) => params)).toEqual([
    { consent: 5 },
    { consent: 6 },
  ]);
});

it('says why an answer could not be taken', () => {
  const { screen, api } = open();
  api.call.mockReturnValue(throwError(() => new Error('They have answered meanwhile.')));
  screen.click('Answer yes');
  expect(screen.text).toContain('They have answered meanwhile.');
});

it('who may not sell sees the questions, and without any there is nothing to see', () => {
  expect(open(false).screen.element.querySelectorAll('button')).toHaveLength(0);
  expect(open(true, []).screen.text).toBe('');
});
