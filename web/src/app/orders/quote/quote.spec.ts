import { signal } from '@angular/core';
import type { LineView } from '@nockwright/contract/orders';
import { show, type TestScreen } from '../../test-screen';
import { testLine, testOrder } from '../test-order';
import { AcceptForm } from './accept-form';
import { changedWords } from './changed-words';
import { LoseForm } from './lose-form';
import { storeProviders } from '../test-store';

const store = { fault: signal(''), busy: signal(false), acceptQuote: jest.fn(), loseQuote: jest.fn() };
const quoted = { quantity: '10', unit: 'XTY', price: '11.1072', day: '2027-03-12' };

beforeEach(() => {
  jest.useFakeTimers();
  store.acceptQuote.mockReset();
  store.loseQuote.mockReset();
});
afterEach(() => jest.useRealTimers());

describe('what has changed since a line was quoted', () => {
  test('nothing where all is as quoted, and where it was quoted to nobody', () => {
    expect(changedWords(testLine({ quoted }), '2027-03-09')).toEqual([]);
    expect(changedWords(testLine(), '2027-03-09')).toEqual([]);
  });

  test('price and day, each with what it was and what it is now', () => {
    const offered = { parts: [{ quantity: '10', price: '12.5', source: 'list' }], amount: '125.00', trail: [] };
    const late = [{ ...testLine().schedule[0]!, day: '2027-03-16' }];
    expect(changedWords(testLine({ quoted, offered, schedule: late }), '2027-03-09')).toEqual([
      'quoted at 11.1072, now 12.5',
      'quoted for Fri 12 Mar, now Tue 16 Mar',
    ]);
  });

  test('a line that has lost its day says so', () => {
    expect(changedWords(testLine({ quoted, uncovered: '40' }), '2027-03-09')).toEqual(['quoted for Fri 12 Mar, now without a day']);
  });
});

describe('what they take of it', () => {
  let form: TestScreen<AcceptForm>;
  const lines: readonly Partial<LineView>[] = [
    { id: 11, lineNo: 1, item: 'JAR-340-HX', quoted },
    { id: 12, lineNo: 2, item: 'LID-063-GD', quantity: '720', unit: 'EA' },
    { id: 13, lineNo: 3, item: 'JAR-340-RD', alternative: true, alternativeTo: 11 },
  ];
  const open = (more: object = {}) => {
    form = show(
      AcceptForm,
      { order: testOrder({ kind: 'quote', state: 'quoted', number: 'Q1004', validUntil: '2027-03-19', lines: lines.map((line) => testLine(line)), ...more }) },
      storeProviders(store),
    );
  };
  const boxes = () => [...form.element.querySelectorAll<HTMLInputElement>('input[type=checkbox]')];
  const make = () => {
    form.click('Create order');
    return store.acceptQuote.mock.calls[0]?.[0] as { lines: { line: number; quantity: string }[]; prices: string; rest: string } | undefined;
  };

  test('is all of it and no alternative, until they say otherwise', () => {
    open();
    expect(boxes().map((box) => box.checked)).toEqual([true, true, false]);
    expect(form.text).toContain('accepted whole');
    expect(form.text).toContain('Net 8,108.25 EUR.');
    expect(make()).toMatchObject({
      lines: [
        { line: 11, quantity: '10' },
        { line: 12, quantity: '720' },
      ],
      prices: 'quoted',
    });
  });

  test('an alternative takes the place of its line, and gives it back', () => {
    open();
    boxes()[2]!.click();
    form.settle();
    expect(boxes().map((box) => box.checked)).toEqual([false, true, true]);
    boxes()[0]!.click();
    form.settle();
    expect(boxes().map((box) => box.checked)).toEqual([true, true, false]);
  });

  test('a part is taken; the rest stays open', () => {
    open();
    form.type('How many of line 2', '300');
    expect(form.text).toContain('What they do not take');
    expect(form.text).toContain('Net 3,443.23 EUR.');
    expect(make()).toMatchObject({ lines: [{ line: 11 }, { line: 12, quantity: '300' }], rest: 'open' });
  });

  test.each([
    ['more than was quoted', '721', '721 taken, 720 are quoted and open'],
    ['no quantity', 'many', 'Line 2: how many?'],
  ])('%s is told, and nothing is done', (_, text, words) => {
    open();
    form.type('How many of line 2', text);
    expect(form.text).toContain(words);
    expect(form.button('Create order').disabled).toBe(true);
    expect(make()).toBeUndefined();
  });

  test('what is typed stays while goods move and the quote is fetched anew', () => {
    open();
    form.type('How many of line 2', '300');
    form.set('order', testOrder({ kind: 'quote', state: 'quoted', number: 'Q1004', validUntil: '2027-03-19', lines: lines.map((line) => testLine(line)) }));
    expect(form.field('How many of line 2').value).toBe('300');
  });

  test('one that has ended says so, and takes the prices of today', () => {
    open({ validUntil: '2027-03-08' });
    expect(form.text).toContain('binds us no more');
    expect(make()).toMatchObject({ prices: 'today' });
  });
});

test('a quote is lost for a reason', () => {
  const form = show(LoseForm, { order: testOrder({ kind: 'quote', state: 'quoted', number: 'Q1004' }) }, storeProviders(store));
  form.type('What they said', ' nine per cent under ours ');
  form.click('Mark as lost');
  expect(store.loseQuote.mock.calls[0]!.slice(0, 2)).toEqual(['price', 'nine per cent under ours']);
});
