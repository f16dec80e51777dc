import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Subject } from 'rxjs';
import { previewOf } from './preview';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

function settle() {
  TestBed.tick();
  jest.advanceTimersByTime(100);
  TestBed.tick();
}

it('asks once typing rests, and shows only the answer to what is asked last', () => {
  const wish = signal<string | null>(null);
  const fault = signal('');
  const answers: Record<string, Subject<number>> = {};
  const ask = jest.fn((words: string) => (answers[words] = new Subject<number>()));
  const preview = TestBed.runInInjectionContext(() => previewOf(wish, ask, fault));
  settle();
  expect(ask).not.toHaveBeenCalled();
  wish.set('1');
  TestBed.tick();
  wish.set('12');
  settle();
  expect(ask.mock.calls).toEqual([['12']]);
  wish.set('123');
  settle();
  answers['12']!.next(12);
  expect(preview()).toBeNull();
  answers['123']!.next(123);
  expect(preview()).toBe(123);
});

it('tells a fault, forgets it with the next wish, and goes on asking', () => {
  const wish = signal<string | null>('a');
  const fault = signal('');
  const answers: Subject<number>[] = [];
  const preview = TestBed.runInInjectionContext(() => previewOf(wish, () => (answers.push(new Subject<number>()), answers.at(-1)!), fault));
  settle();
  answers[0]!.error(new Error('there is no such item'));
  expect([preview(), fault()]).toEqual([null, 'there is no such item']);
  wish.set('b');
  settle();
  expect(fault()).toBe('');
  answers[1]!.next(2);
  expect(preview()).toBe(2);
  wish.set(null);
  settle();
  expect(preview()).toBeNull();
});
