import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Subject } from 'rxjs';
import { foundAsTyped, type FoundAsTyped } from './found-as-typed';

let text: ReturnType<typeof signal<string>>;
let asked: { text: string; answer: Subject<readonly string[]> }[];
let found: FoundAsTyped<string>;

beforeEach(() => {
  jest.useFakeTimers();
  text = signal('');
  asked = [];
  found = TestBed.runInInjectionContext(() =>
    foundAsTyped(text, (wanted) => {
      const answer = new Subject<readonly string[]>();
      asked.push({ text: wanted, answer });
      return answer;
    }),
  );
  type('');
  asked[0]!.answer.next(['Abbot', 'Wether']);
});
afterEach(() => jest.useRealTimers());

function type(words: string) {
  text.set(words);
  TestBed.tick();
  jest.advanceTimersByTime(100);
}

it('has nothing for a text until that is looked up, though what was found before may still be looked at', () => {
  type('weth');
  expect([found.rows(), found.last(), found.searching()]).toEqual([[], ['Abbot', 'Wether'], true]);
  asked[1]!.answer.next(['Wether']);
  expect([found.rows(), found.searching()]).toEqual([['Wether'], false]);
});

it('gives who waits what is found for the text as it stood, and nothing where that changes meanwhile', () => {
  const then = jest.fn();
  type('weth');
  found.whenFound(then);
  expect(then).not.toHaveBeenCalled();
  asked[1]!.answer.next(['Wether']);
  expect(then).toHaveBeenCalledWith(['Wether']);
  type('abb');
  found.whenFound(then);
  type('abbo');
  asked[2]!.answer.next(['Abbot']);
  asked[3]!.answer.next(['Abbot']);
  expect(then).toHaveBeenCalledTimes(1);
  found.whenFound(then);
  expect(then).toHaveBeenCalledTimes(2);
});
