import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { itemRoutes, type ItemFound } from '@nockwright/contract/items';
import type { OrderView } from '@nockwright/contract/orders';
import { Subject } from 'rxjs';
import { Session } from '../../access';
import { Api, ProblemError } from '../../api';
import type { LineWish } from '../order-lines';
import { testOrder } from '../test-order';
import { TypedLines } from './typed-lines';
import { storeProviders } from '../test-store';

const item = (code: string): ItemFound => ({
  code,
  theirCode: null,
  description: code,
  group: '',
  unit: 'EA',
  units: [{ code: 'EA', name: 'each', numerator: '1', denominator: '1', step: '1' }],
  available: '9',
  discontinued: false,
  corrected: false,
  byGroup: false,
});

/** Searches that were made, in sequence, and lines that were sent, with who waits for each answer. */
let searches: { words: string; answer: Subject<readonly ItemFound[]> }[];
let sent: { wish: LineWish; key: string; settled: (fault: ProblemError | null) => void }[];
let lines: TypedLines;
const store = {
  order: signal<OrderView | null>(testOrder()),
  addLine: (wish: LineWish, key: string, settled: (fault: ProblemError | null) => void) => void sent.push({ wish, key, settled }),
};

function begin() {
  TestBed.resetTestingModule();
  searches = [];
  sent = [];
  const call = (route: unknown, { query }: { query: { search: string } }) => {
    expect(route).toBe(itemRoutes.findItems);
    const answer = new Subject<readonly ItemFound[]>();
    searches.push({ words: query.search, answer });
    return answer;
  };
  TestBed.configureTestingModule({
    providers: [
      TypedLines,
      { provide: Api, useValue: { call } },
      ...storeProviders(store),
      { provide: Session, useValue: { today: () => '2027-03-09', user: () => ({ login: 'ida' }) } },
    ],
  });
  lines = TestBed.inject(TypedLines);
  lines.open(5);
}

beforeEach(() => {
  jest.useFakeTimers();
  localStorage.clear();
  begin();
});
afterEach(() => jest.useRealTimers());

const texts = () => lines.rows().map((row) => [row.text, row.state]);
const found = (at: number, ...codes: string[]) => searches[at]!.answer.next(codes.map(item));

it('looks all up at once and adds one after the other as they were typed, whichever is found first', () => {
  lines.add('hive tool 4', null);
  lines.add('pen 2', null);
  lines.add('brush 7', null);
  expect(searches.map(({ words }) => words)).toEqual(['hive tool', 'pen', 'brush']);
  found(2, 'BRS');
  found(1, 'PEN');
  expect(sent).toEqual([]);
  found(0, 'TOL');
  expect(sent.map(({ wish }) => wish)).toEqual([{ item: 'TOL', quantity: '4' }]);
  sent[0]!.settled(null);
  sent[1]!.settled(null);
  sent[2]!.settled(null);
  expect(sent.map(({ wish }) => wish.item)).toEqual(['TOL', 'PEN', 'BRS']);
  expect(lines.rows()).toEqual([]);
});

it('asks before it takes what has a word only in the name of its group', () => {
  lines.add('jars 2', null);
  searches[0]!.answer.next([{ ...item('CLP'), group: 'Jars', byGroup: true }]);
  expect(lines.rows()[0]).toMatchObject({ state: 'refused', fault: '“jars” is only the name of a group, Jars. Enter takes CLP, CLP; or type it again.' });
  lines.retry(lines.rows()[0]!.key, 'jars 2');
  expect(sent.map(({ wish }) => wish)).toEqual([{ item: 'CLP', quantity: '2' }]);
});

it('asks about a near spelling before it takes it', () => {
  lines.add('matched 2', null);
  searches[0]!.answer.next([{ ...item('CLP'), corrected: true }]);
  expect(lines.rows()[0]).toMatchObject({ state: 'refused', fault: '“matched” is not known. Enter takes CLP, CLP; or type it again.' });
  expect(sent).toEqual([]);
  lines.retry(lines.rows()[0]!.key, 'matched 2');
  expect(sent.map(({ wish }) => wish)).toEqual([{ item: 'CLP', quantity: '2' }]);
});

it('leaves what is refused with its text and why, and goes on behind it', () => {
  lines.add('zzz 4', null);
  lines.add('pen 2', item('PEN'));
  found(0);
  expect(lines.rows()[0]).toMatchObject({ text: 'zzz 4', state: 'refused', fault: 'There is no item that matches “zzz”.' });
  sent[0]!.settled(new ProblemError({ title: 'x', status: 422, detail: 'PEN is not sold today' }));
  expect(texts()).toEqual([
    ['zzz 4', 'refused'],
    ['pen 2', 'refused'],
  ]);
  const [first] = lines.rows();
  lines.retry(first!.key, 'tool 4');
  found(1, 'TOL');
  expect(sent[1]).toMatchObject({ wish: { item: 'TOL', quantity: '4' } });
  expect(sent[1]!.key).not.toBe(first!.key);
});

it('sends again under the same key where the desk cannot be reached, for as long as it takes', () => {
  lines.add('pen 2', item('PEN'));
  const away = new ProblemError({ title: 'x', status: 503 });
  for (let round = 0; round < 3; round++) {
    sent[round]!.settled(away);
    expect(texts()).toEqual([['pen 2', 'adding']]);
    jest.advanceTimersByTime(4000);
  }
  expect(new Set(sent.map(({ key }) => key)).size).toBe(1);
  sent[3]!.settled(null);
  expect(lines.rows()).toEqual([]);
});

it('goes on after a closed tab with what was under way, adding nothing twice', () => {
  lines.add('pen 2 fri', item('PEN'));
  lines.add('tool 4', null);
  const [{ key, wish }] = sent as [(typeof sent)[number]];
  begin();
  expect(sent).toMatchObject([{ key, wish }]);
  expect(searches.map(({ words }) => words)).toEqual(['tool']);
});

it('tells when nothing is under way any more; what was refused is not', () => {
  const then = jest.fn();
  lines.add('pen 2', item('PEN'));
  lines.whenSettled(then);
  expect(then).not.toHaveBeenCalled();
  sent[0]!.settled(new ProblemError({ title: 'x', status: 409, detail: 'Order 20400 is released.' }));
  expect(then).toHaveBeenCalledTimes(1);
});
