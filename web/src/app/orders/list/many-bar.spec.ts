import { signal } from '@angular/core';
import { show } from '../../test-screen';
import { ManyActs } from './many-acts';
import { ManyBar } from './many-bar';

interface Run {
  readonly act: 'release' | 'hold' | 'mail';
  readonly total: number;
  readonly running: boolean;
  readonly outcomes: readonly { readonly id: number; readonly label: string; readonly why: string; readonly differs?: readonly object[] }[];
}
const run = signal<Run | null>(null);
const acts = { run, start: jest.fn(), releaseSeen: jest.fn(), stop: jest.fn(), clear: jest.fn(() => run.set(null)) };

function bar(chosen: readonly number[], maySell = true) {
  const screen = show(ManyBar, { chosen, maySell }, [{ provide: ManyActs, useValue: acts }]);
  const cleared = jest.fn();
  screen.fixture.componentInstance.cleared.subscribe(cleared);
  return { screen, cleared };
}

beforeEach(() => {
  jest.useFakeTimers();
  run.set(null);
  acts.start.mockReset();
});
afterEach(() => jest.useRealTimers());

it('releases those that are chosen by key, and chooses none after', () => {
  const { screen, cleared } = bar([3, 5]);
  expect(screen.text).toContain('2 chosen');
  screen.press('r');
  expect(acts.start).toHaveBeenCalledWith('release', [3, 5], '');
  expect(cleared).toHaveBeenCalledTimes(1);
});

it('asks what held orders wait for, and holds none without', () => {
  const { screen } = bar([3]);
  screen.press('h');
  screen.click('Hold');
  expect(acts.start).not.toHaveBeenCalled();
  screen.type('Hold drafts', 'the street number');
  screen.click('Hold');
  expect(acts.start).toHaveBeenCalledWith('hold', [3], 'the street number');
});

it('does nothing by key while none is chosen, or for who may only read', () => {
  bar([]).screen.press('r');
  bar([3], false).screen.press('w');
  expect(acts.start).not.toHaveBeenCalled();
});

it('prints and exports exactly those', () => {
  const links = [...bar([3, 5]).screen.element.querySelectorAll('a')].map((link) => link.getAttribute('href'));
  expect(links).toEqual(['/api/order-print?orders=3,5', '/api/order-export?state=all&orders=3,5']);
});

it('tells what became of each, and goes when it was read', () => {
  const { screen } = bar([]);
  run.set({ act: 'release', total: 3, running: true, outcomes: [{ id: 3, label: 'draft 3', why: '' }] });
  screen.settle();
  expect(screen.text).toContain('1 released');
  expect(screen.text).toContain('2 to go');
  screen.click('Stop');
  expect(acts.stop).toHaveBeenCalled();
  run.set({
    act: 'release',
    total: 2,
    running: false,
    outcomes: [
      { id: 3, label: 'draft 3', why: '' },
      { id: 5, label: 'draft 5', why: 'it is held' },
    ],
  });
  screen.settle();
  expect(screen.text).toContain('draft 5 not: it is held');
  screen.press('Escape');
  expect(acts.clear).toHaveBeenCalled();
});

it('lets go of what is chosen with Escape', () => {
  const { screen, cleared } = bar([3]);
  screen.press('Escape');
  expect(cleared).toHaveBeenCalledTimes(1);
});

it('shows in what a promise is not as requested, and releases it when somebody says so: one by one or all', () => {
  const { screen } = bar([]);
  run.set({
    act: 'release',
    total: 3,
    running: false,
    outcomes: [
      { id: 3, label: 'draft 3', why: '' },
      { id: 5, label: 'draft 5', why: '', differs: [{ kind: 'late', lineNo: 2, item: 'LID', day: '2027-03-16', daysLate: 4 }] },
      { id: 6, label: 'draft 6', why: '', differs: [{ kind: 'short', lineNo: 1, item: 'JAR', quantity: '30' }] },
    ],
  });
  screen.settle();
  expect(screen.text).toContain('1 released');
  expect(screen.text).toContain('line 2, LID: promised Tue 16 Mar, 4 days late');
  expect(screen.text).toContain('line 1, JAR: 30 backordered without a day');
  screen.click('Release draft 5 so');
  expect(acts.releaseSeen).toHaveBeenLastCalledWith([5]);
  screen.press('r');
  expect(acts.releaseSeen).toHaveBeenLastCalledWith([5, 6]);
});
