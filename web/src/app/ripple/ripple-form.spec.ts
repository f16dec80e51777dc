import { signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Router } from '@angular/router';
import type { SupplyRipple } from '@nockwright/contract/supply';
import { of } from 'rxjs';
import { show } from '../test-screen';
import { Preview } from './preview';
import { RippleForm, type Settled } from './ripple-form';
import { testMover } from './test-mover';

beforeEach(() => jest.useFakeTimers());
afterEach(() => jest.useRealTimers());

const effect = (later: readonly number[], offers: readonly number[] = []): SupplyRipple => ({
  availableDay: null,
  ripple: { later: later.map((line) => testMover({ line })), earlier: [], offers: offers.map((line) => testMover({ line })) },
});

/** The form, what it was settled as, and what the server answers from now on. */
function form(first: SupplyRipple) {
  let answer = first;
  const wish = signal({});
  const becomes = (now: SupplyRipple) => {
    answer = now;
    wish.set({});
  };
  const screen = show(RippleForm, {}, [], undefined, (set) => {
    const preview = new Preview(wish, () => of(answer));
    for (const [name, value] of Object.entries({ heading: 'Another day', does: 'Save', only: 'Save only', preview, version: 3 })) set(name, value);
  });
  const settled: Settled[] = [];
  screen.fixture.componentInstance.settled.subscribe((how) => settled.push(how));
  const key = (name: string) => screen.press(name, document.body, { ctrlKey: true });
  return { screen, becomes, settled, key };
}
const seen = [{ line: 31, after: [{ day: '2027-03-16', quantity: '2' }] }];

it('is settled with what was seen, the offers that were taken and why', () => {
  const { screen, settled, key } = form(effect([31], [40]));
  screen.type('Why', ' no van ');
  screen.element.querySelector<HTMLInputElement>('input[type=checkbox]')!.click();
  screen.settle();
  key('Enter');
  expect(settled).toMatchObject([{ reason: 'no van', decision: { seen, accept: [40] } }]);
});

it('leads to the board with whom it hurts, and moves nobody itself; where nobody is hurt the key does nothing', () => {
  const { screen, becomes, settled, key } = form(effect([31, 33, 31]));
  const go = jest.spyOn(TestBed.inject(Router), 'navigate').mockResolvedValue(true);
  key('b');
  expect(settled[0]).not.toHaveProperty('decision');
  expect(go).not.toHaveBeenCalled();
  settled[0]!.then();
  expect(go).toHaveBeenCalledWith(['/shortages'], { queryParams: { lines: '31,33' } });
  becomes(effect([]));
  key('b');
  expect(screen.text).toContain('No promise moves later now');
  key('b');
  expect(settled).toHaveLength(1);
});

it('is only recorded once it stands there whom that leaves at risk', () => {
  const { screen, becomes, settled } = form(effect([31]));
  screen.click('Save only');
  expect(settled).toMatchObject([{ reason: '' }]);
  expect(settled[0]).not.toHaveProperty('decision');
  becomes(effect([77]));
  screen.button('Save only').click();
  screen.settle();
  expect(settled).toHaveLength(1);
  expect(screen.text).toContain('look at it, then press again');
});

it('is not settled twice while it is being done', () => {
  const { screen, settled, key } = form(effect([31]));
  screen.set('busy', true);
  key('Enter');
  key('b');
  expect(settled).toEqual([]);
});

it('says where the paper was changed elsewhere', () => {
  const { screen } = form(effect([31]));
  expect(screen.text).not.toContain('Changed elsewhere');
  screen.set('version', 4);
  expect(screen.text).toContain('Changed elsewhere meanwhile');
});
