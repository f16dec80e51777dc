import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import type { RippleView } from '@nockwright/contract/promise';
import { Subject } from 'rxjs';
import { Preview } from './preview';
import { testMover } from './test-mover';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

function settle() {
  TestBed.tick();
  jest.advanceTimersByTime(100);
  TestBed.tick();
}
const nobody: RippleView = { later: [], earlier: [], offers: [] };
const moving = (line: number): RippleView => ({ ...nobody, later: [testMover({ line })] });

/** A preview, what is asked of it, and one answer under way for each time it asks. */
function preview(first: string | null) {
  const wish = signal(first);
  const answers: Subject<RippleView>[] = [];
  const ask = jest.fn((_: string) => (answers.push(new Subject<RippleView>()), answers.at(-1)!));
  const made = TestBed.runInInjectionContext(() => new Preview(wish, ask));
  settle();
  const comes = (effect: RippleView) => {
    answers.at(-1)!.next(effect);
    settle();
  };
  const type = (text: string | null) => {
    wish.set(text);
    settle();
  };
  return { wish, answers, ask, made, comes, type };
}

it('asks once typing rests, and knows only the answer to what is asked last', () => {
  const { wish, ask, made, answers, type } = preview(null);
  expect(ask).not.toHaveBeenCalled();
  wish.set('1');
  TestBed.tick();
  type('12');
  expect(ask.mock.calls).toEqual([['12']]);
  type('123');
  answers[0]!.next(moving(12));
  expect(made.known()).toBeNull();
  answers[1]!.next(moving(123));
  expect(made.known()).toEqual(moving(123));
});

it('goes on showing the last answer while a newer one is reckoned, and does not take it for known', () => {
  const { made, comes, wish, type } = preview('a');
  comes(moving(1));
  expect([made.shown(), made.known(), made.reckoning()]).toEqual([moving(1), moving(1), false]);
  wish.set('b');
  expect([made.shown(), made.known(), made.reckoning()]).toEqual([moving(1), null, true]);
  type(null);
  expect([made.shown(), made.known(), made.reckoning(), made.asks()]).toEqual([null, null, false, false]);
});

it('tells a fault, forgets it with the next wish, and goes on asking', () => {
  const { made, answers, comes, type } = preview('a');
  answers[0]!.error(new Error('there is no such item'));
  expect([made.shown(), made.fault()]).toEqual([null, 'there is no such item']);
  type('b');
  expect(made.fault()).toBe('');
  comes(nobody);
  expect(made.shown()).toEqual(nobody);
});

describe('what is to be done with it', () => {
  const act = jest.fn();
  beforeEach(() => act.mockClear());

  it('is done at once where it is known, and not at all where nothing is asked', () => {
    const { made, comes, type } = preview('a');
    comes(moving(1));
    made.once(act);
    expect(act.mock.calls).toEqual([[moving(1)]]);
    type(null);
    made.once(act);
    expect(act).toHaveBeenCalledTimes(1);
  });

  it('waits, and is done where nobody is moved', () => {
    const { made, comes } = preview('a');
    made.once(act);
    expect(made.fault()).toContain('Computing');
    comes(nobody);
    expect(act.mock.calls).toEqual([[nobody]]);
    expect(made.fault()).toBe('');
    comes(nobody);
    expect(act).toHaveBeenCalledTimes(1);
  });

  it('waits, and is looked at first where others are moved than stood there', () => {
    const { made, comes, type } = preview('a');
    comes(moving(1));
    type('b');
    made.once(act);
    comes(moving(2));
    expect(act).not.toHaveBeenCalled();
    expect(made.fault()).toContain('look at it, then press again');
    made.once(act);
    expect(act.mock.calls).toEqual([[moving(2)]]);
  });

  it('is done without another look where the same comes again as was shown', () => {
    const { made, comes, type } = preview('a');
    comes(moving(1));
    type('a ');
    made.once(act);
    comes(moving(1));
    expect(act.mock.calls).toEqual([[moving(1)]]);
  });

  it('is not done after all where something else is typed meanwhile', () => {
    const { made, answers, wish, comes } = preview('a');
    made.once(act);
    wish.set('b');
    answers[0]!.next(nobody);
    settle();
    expect(made.fault()).toBe('');
    comes(nobody);
    expect(act).not.toHaveBeenCalled();
  });

  it('asks again where it could not be reckoned, and tells where it still cannot', () => {
    const { made, answers, ask, comes } = preview('a');
    answers[0]!.error(new Error('the line is dead'));
    made.once(act);
    settle();
    expect(ask).toHaveBeenCalledTimes(2);
    answers[1]!.error(new Error('still dead'));
    expect(made.fault()).toBe('still dead');
    made.once(act);
    settle();
    comes(nobody);
    expect(act).toHaveBeenCalledTimes(1);
  });
});
