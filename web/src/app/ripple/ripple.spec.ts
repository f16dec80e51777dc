import { Component } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { RippleView } from '@nockwright/contract/promise';
import { Session } from '../access';
import { Compared, Sheet } from '../paper';
import { Ripple } from './ripple';
import { decisionOf, moveInWords, rippleInWords, toneOf } from './ripple-words';
import { testGain, testMover } from './test-mover';

const nothing: RippleView = { later: [], earlier: [], offers: [] };

describe('a ripple in a sentence', () => {
  it.each([
    [nothing, 'No promise moves later.'],
    [{ ...nothing, earlier: [testGain()] }, 'No promise moves later. 1 promise moves earlier.'],
    [
      { later: [testMover(), testMover({ line: 33, days: null, to: null, value: '28.50' })], earlier: [testGain(), testGain()], offers: [] },
      '2 promises to 1 customer move later: the worst by 4 days, 1 without supply, worth 1,600.50 EUR. 2 promises move earlier.',
    ],
    [{ ...nothing, later: [testMover({ days: 1 })] }, '1 promise to 1 customer moves later: the worst by 1 day, worth 1,572.00 EUR.'],
  ])('%#', (ripple, words) => expect(rippleInWords(ripple, 'EUR')).toBe(words));

  it.each([
    ['2027-03-12', '2027-03-16', '4 days later', 'late'],
    ['2027-03-16', '2027-03-15', '1 day earlier', 'good'],
    [null, '2027-03-15', 'new day', 'good'],
    ['2027-03-15', null, 'no supply', 'open'],
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
    TestBed.configureTestingModule({ providers: [provideRouter([]), { provide: Session, useValue: { today: () => '2027-03-09', currency: () => 'EUR' } }] });
    fixture = TestBed.createComponent(Ripple);
    fixture.componentRef.setInput('ripple', ripple);
    fixture.componentRef.setInput('accepted', accepted);
    fixture.detectChanges();
    element = fixture.nativeElement as HTMLElement;
  }
  const text = () => element.textContent!.replace(/\s+/g, ' ');
  const rows = () =>
    [...element.querySelectorAll('tbody tr:not(.heading)')].map((row) =>
      [...row.querySelectorAll('td')]
        .map((cell) => cell.textContent!.trim().replace(/\s+/g, ' '))
        .filter(Boolean)
        .join(' '),
    );

  it('names who is hurt, each part that moves, what it is worth, where to ring and what to say', () => {
    const moves = [
      { quantity: '2', from: '2027-03-12', to: '2027-03-16' },
      { quantity: '3', from: '2027-03-12', to: null },
    ];
    show({ ...nothing, later: [testMover({ moves })] });
    expect(rows()).toEqual([
      '20413/1 Pipistrelle Farm Shop 2 EXT-T4-MN Fri 12 Mar Tue 16 Mar 4 days later 1,572.00 told, call',
      '3 EXT-T4-MN Fri 12 Mar backordered no supply',
    ]);
    expect(text()).toContain('Say to Pipistrelle Farm Shop, 01632 960155:');
    expect(element.querySelector('q')!.textContent).toBe('The 2 will leave on Tuesday the 16th instead.');
  });

  it('has nothing to say to who was told nothing', () => {
    show({ ...nothing, later: [testMover({ told: false })] });
    expect(rows()[0]).toContain('not told');
    expect(text()).toContain('was told no day yet: nothing to say.');
    expect(element.querySelector('q')).toBeNull();
  });

  it('lets offers be taken one by one, all at once, and left again', () => {
    show({ ...nothing, offers: [testGain({ line: 41 }), testGain({ line: 42 })] });
    const taken: (readonly number[])[] = [];
    fixture.componentInstance.accepted.subscribe((lines) => taken.push(lines));
    element.querySelector<HTMLInputElement>('input[type=checkbox]')!.click();
    [...element.querySelectorAll('button')].find((button) => button.textContent!.includes('Accept all'))!.click();
    expect(taken).toEqual([[41], [41, 42]]);
    TestBed.resetTestingModule();
    show({ ...nothing, earlier: [testGain({ line: 41 })] }, [41]);
    const left: (readonly number[])[] = [];
    fixture.componentInstance.accepted.subscribe((lines) => left.push(lines));
    element.querySelector<HTMLInputElement>('input[type=checkbox]:checked')!.click();
    [...element.querySelectorAll('button')].find((button) => button.textContent!.includes('Accept none'))!.click();
    expect(left).toEqual([[], []]);
  });

  it('stands on the sheet where there is one, and what to say of the row that is looked at in the gloss', () => {
    @Component({ imports: [Sheet, Ripple], template: '<nock-sheet><div gloss><nock-ripple [ripple]="ripple" /></div></nock-sheet>' })
    class Page {
      readonly ripple: RippleView = {
        ...nothing,
        later: [testMover(), testMover({ line: 33, customer: 'Old Mill', say: 'It leaves on Friday.' })],
        earlier: [testGain()],
      };
    }
    TestBed.configureTestingModule({ providers: [provideRouter([]), { provide: Session, useValue: { today: () => '2027-03-09', currency: () => 'EUR' } }] });
    const page = TestBed.createComponent(Page);
    document.body.append(page.nativeElement as HTMLElement);
    page.detectChanges();
    TestBed.tick();
    page.detectChanges();
    element = page.nativeElement as HTMLElement;
    expect(element.querySelector('aside table')).toBeNull();
    const movers = [...element.querySelectorAll<HTMLElement>('.sheet tbody tr:not(.heading)')];
    expect(movers).toHaveLength(3);
    expect([...element.querySelectorAll('.sheet .heading')].map((row) => row.textContent!.trim())).toEqual(['Moves later', 'Moves earlier']);
    movers[0]!.focus();
    movers[0]!.dispatchEvent(new KeyboardEvent('keydown', { key: 'ArrowDown', bubbles: true }));
    page.detectChanges();
    expect(document.activeElement).toBe(movers[1]);
    expect(element.querySelector('aside q')!.textContent).toBe('It leaves on Friday.');
    page.destroy();
    expect(TestBed.inject(Compared).shown()).toEqual([]);
  });
});
