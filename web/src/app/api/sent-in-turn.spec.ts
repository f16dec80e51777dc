import { TestBed } from '@angular/core/testing';
import { of, Subject, throwError, type Observable } from 'rxjs';
import { ProblemError } from './api';
import { Reach } from './reach';
import { SentInTurn } from './sent-in-turn';

const back = new Subject<void>();
const OFFLINE = new ProblemError({ title: 'away', status: 503, type: '/problems/offline' });
const isText = (what: unknown): what is string => typeof what === 'string';

function queue(send: (what: string, key: string) => Observable<string>) {
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({ providers: [{ provide: Reach, useValue: { back } }] });
  return TestBed.runInInjectionContext(() => new SentInTurn<string, string>('test-queue', send, isText));
}

beforeEach(() => localStorage.clear());

it('sends one after the other, and keeps what cannot be sent until the desk is back, in its sequence and under its key', () => {
  let away = true;
  const sent: [string, string][] = [];
  const turns = queue((what, key) => {
    sent.push([what, key]);
    return away ? throwError(() => OFFLINE) : of('done');
  });
  turns.add('one');
  turns.add('two');
  expect(turns.pending().map((row) => row.what)).toEqual(['one', 'two']);
  away = false;
  back.next();
  expect(turns.pending()).toEqual([]);
  const keys = new Set(sent.filter(([what]) => what === 'one').map(([, key]) => key));
  expect([sent.at(-2)![0], sent.at(-1)![0], keys.size]).toEqual(['one', 'two', 1]);
});

it('what was not sent before the page was closed is sent when it is opened again; what is no such thing is left out', () => {
  localStorage.setItem('test-queue', JSON.stringify([{ key: 'k1', what: 'kept' }, { key: 'k2', what: 7 }, 'nonsense']));
  const sent: string[] = [];
  queue((what) => {
    sent.push(what);
    return of('done');
  });
  expect(sent).toEqual(['kept']);
  expect(localStorage.getItem('test-queue')).toBe('[]');
});

it('what the desk refuses is told, and what follows goes on', () => {
  const turns = queue((what) => (what === 'bad' ? throwError(() => new ProblemError({ title: 'x', status: 409, detail: 'The lot is wrong.' })) : of('done')));
  turns.add('bad');
  turns.add('good');
  expect([turns.refused(), turns.pending()]).toEqual(['The lot is wrong.', []]);
});
