import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { RippleView } from '@nockwright/contract/promise';
import { Session } from '../access';
import { Ripple } from './ripple';
import { decisionOf, moveInWords, rippleInWords, toneOf } from './ripple-words';
import { testGain, testMover } from './test-mover';

const nothing: RippleView = { later: [], earlier: [], offers: [] };

describe('a ripple in a sentence', () => {
  it.each([
    [nothing, 'Nobody is made later.'],
    [{ ...nothing, earlier: [testGain()] }, 'Nobody is made later. 1 promise comes earlier.'],
    [
      { later: [testMover(), testMover({ line: 33, days: null, to: null, value: '28.50' })], earlier: [testGain(), testGain()], offers: [] },
      '2 promises to 1 customer move later: the worst by 4 days, 1 without supply, worth 1,600.50 EUR. 2 promises come earlier.',
    ],
    [{ ...nothing, later: [testMover({ days: 1 })] }, '1 promise to 1 customer moves later: the worst by 1 day, worth 1,572.00 EUR.'],
  ])('%#', (ripple, words) => expect(rippleInWords(ripple)).toBe(words));

  it.each([
    ['2027-03-12', '2027-03-16', '4 days later', 'late'],
    ['2027-03-16', '2027-03-15', '1 day earlier', 'good'],
    [null, '2027-03-15', 'gets its day', 'good'],
    ['2027-03-15', null, 'no supply left', 'open'],
  ])('a part that goes from %s to %s', (from, to, words, tone) => expect([moveInWords({ from, to }), toneOf({ from, to })]).toEqual([words, tone]));

  it('is decided with every move as it was seen, and the offers that are taken', () =>
    expect(decisionOf({ later: [testMover()], earlier: [testGain()], offers: [testMover({ line: 40 })] }, [40])).toEqual({
      seen: [
        { line: 31, after: [{ day: '2027-03-16', quantity: '2' }] },
        { line: 32, after: [{ day: '2027-03-16', quantity: '2' }] },
      ],
      accept: [40],
    }));
});

describe('the list', () => {
  let fixture: ComponentFixture<Ripple>;
  let element: HTMLElement;

  function show(ripple: RippleView, accepted: readonly number[] = []) {
    TestBed.configureTestingModule({ providers: [provideRouter([]), { provide: Session, useValue: { today: () => '2027-03-09' } }] });
    fixture = TestBed.createComponent(Ripple);
    fixture.componentRef.setInput('ripple', ripple);
    fixture.componentRef.setInput('accepted', accepted);
    fixture.detectChanges();
    element = fixture.nativeElement as HTMLElement;
  }
  const text = () => element.textContent!.replace(/\s+/g, ' ');

  it('names who is hurt, each part that moves, what it is worth, where to ring and what to say', () => {
    const moves = [
      { quantity: '2', from: '2027-03-12', to: '2027-03-16' },
      { quantity: '3', from: '2027-03-12', to: null },
    ];
    show({ ...nothing, later: [testMover({ moves })] });
    expect(text()).toContain('20413/1 Pipistrelle Farm Shop');
    expect(text()).toContain('2 EXT-T4-MN: Fri 12 Mar → Tue 16 Mar, 4 days later');
    expect(text()).toContain('3 EXT-T4-MN: Fri 12 Mar → waiting, no supply left');
    expect(text()).toContain('1,572.00 EUR, was told a day, 01632 960155');
    expect(element.querySelector('q')!.textContent).toBe('The 2 will leave on Tuesday the 16th instead.');
  });

  it('has nothing to say to who was told nothing', () => {
    show({ ...nothing, later: [testMover({ told: false })] });
    expect(text()).toContain('not told a day yet');
    expect(element.querySelector('q')).toBeNull();
  });

  it('lets offers be taken one by one, all at once, and left again', () => {
    show({ ...nothing, offers: [testGain({ line: 41 }), testGain({ line: 42 })] });
    const taken: (readonly number[])[] = [];
    fixture.componentInstance.accepted.subscribe((lines) => taken.push(lines));
    element.querySelector<HTMLInputElement>('input[type=checkbox]')!.click();
    [...element.querySelectorAll('button')].find((button) => button.textContent!.includes('take all'))!.click();
    expect(taken).toEqual([[41], [41, 42]]);
    TestBed.resetTestingModule();
    show({ ...nothing, earlier: [testGain({ line: 41 })] }, [41]);
    const left: (readonly number[])[] = [];
    fixture.componentInstance.accepted.subscribe((lines) => left.push(lines));
    [...element.querySelectorAll('button')].find((button) => button.textContent!.includes('leave it'))!.click();
    expect(left).toEqual([[]]);
  });
});
