import { ApplicationRef, Component, inject, input, signal } from '@angular/core';
import { TestBed } from '@angular/core/testing';
import { Session } from '../access';
import { AmountPipe, DayField, DayPipe, Keys, PricePipe, StateMark, UnitPipe } from './index';

const TODAY = '2027-03-09';
beforeEach(() => TestBed.configureTestingModule({ providers: [{ provide: Session, useValue: { today: () => TODAY } }] }));

describe('figures and words', () => {
  it('set thousands apart and leave every digit', () => {
    const pipe = new AmountPipe();
    expect(['0', '12', '1234', '1234567.8901', '-98765.4', null].map((value) => pipe.transform(value))).toEqual([
      '0',
      '12',
      '1,234',
      '1,234,567.8901',
      '-98,765.4',
      '–',
    ]);
  });

  it('give a price two decimals at least and never fewer than it has', () => {
    const pipe = new PricePipe();
    expect(['86', '81.7', '11.1072', undefined].map((value) => pipe.transform(value))).toEqual(['86.00', '81.70', '11.1072', '–']);
  });

  it('write days and units as the desk does', () => {
    TestBed.runInInjectionContext(() => {
      const pipe = new DayPipe();
      expect([pipe.transform('2027-03-12'), pipe.transform('2028-03-12'), pipe.transform(null)]).toEqual(['Fri 12 Mar', 'Sun 12 Mar 2028', '–']);
    });
    expect(new UnitPipe().transform('XTY', '20')).toBe('trays');
  });

  it('say a state in a word beside its shape', () => {
    const fixture = TestBed.createComponent(StateMark);
    fixture.componentRef.setInput('state', 'late');
    fixture.detectChanges();
    expect((fixture.nativeElement as HTMLElement).textContent!.trim()).toBe('late');
    expect((fixture.nativeElement as HTMLElement).querySelector('svg')!.getAttribute('aria-hidden')).toBe('true');
  });
});

describe('a day typed as it is said', () => {
  function field(day = '2027-03-11') {
    const fixture = TestBed.createComponent(DayField);
    fixture.componentRef.setInput('day', day);
    fixture.componentRef.setInput('fieldId', 'asked');
    const changed: string[] = [];
    fixture.componentInstance.changed.subscribe((value) => changed.push(value));
    fixture.detectChanges();
    const input = (fixture.nativeElement as HTMLElement).querySelector('input')!;
    const type = (text: string) => {
      input.value = text;
      input.dispatchEvent(new Event('input'));
      fixture.detectChanges();
    };
    const press = (key: string, more: object = {}) => {
      const event = new KeyboardEvent('keydown', { key, cancelable: true, bubbles: true, ...more });
      input.dispatchEvent(event);
      fixture.detectChanges();
      return event;
    };
    return { fixture, input, type, press, changed, text: () => (fixture.nativeElement as HTMLElement).textContent!.trim() };
  }

  it('shows what it means while it is typed, and counts on Enter', () => {
    const { type, press, changed, text, input } = field();
    expect(input.value).toBe('Thu 11 Mar');
    type('fri');
    expect(text()).toBe('Fri 12 Mar');
    expect(changed).toEqual([]);
    press('Enter');
    expect(changed).toEqual(['2027-03-12']);
  });

  it('counts on Ctrl+Enter before the screen does its act, and holds the act back where it is no day', () => {
    const { type, press, changed } = field();
    type('+3');
    expect(press('Enter', { ctrlKey: true }).defaultPrevented).toBe(false);
    expect(changed).toEqual(['2027-03-12']);
    type('soonish');
    expect(press('Enter', { ctrlKey: true }).defaultPrevented).toBe(true);
    expect(changed).toEqual(['2027-03-12']);
  });

  it('goes back to what it was on Escape', () => {
    const { type, press, changed, input } = field();
    type('fri');
    press('Escape');
    expect([input.value, changed]).toEqual(['Thu 11 Mar', []]);
  });
});

describe('the keys of a screen', () => {
  const press = (key: string, target: HTMLElement = document.body, more: object = {}) => {
    const event = new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more });
    target.dispatchEvent(event);
    return event;
  };

  it('work outside of fields; Ctrl+Enter works everywhere', () => {
    const done: string[] = [];
    TestBed.runInInjectionContext(() => {
      TestBed.inject(Keys).use([
        { key: 'R', does: 'route', run: () => void done.push('r') },
        { key: 'Ctrl+Enter', does: 'release', run: () => void done.push('release') },
      ]);
    });
    const input = document.body.appendChild(document.createElement('input'));
    press('r');
    press('r', input);
    press('Enter', input, { ctrlKey: true });
    expect(done).toEqual(['r', 'release']);
    input.remove();
  });

  it('show what a key did before the next key comes', () => {
    @Component({
      template: `@if (open()) {
        <input class="of-form" />
      }`,
    })
    class Page {
      readonly open = signal(true);
      constructor() {
        inject(Keys).use([{ key: 'Escape', does: 'close it', run: () => this.open.set(false) }]);
      }
    }
    const page = TestBed.createComponent(Page);
    TestBed.inject(ApplicationRef).attachView(page.componentRef.hostView);
    page.detectChanges();
    press('Escape');
    expect((page.nativeElement as HTMLElement).querySelector('.of-form')).toBeNull();
  });

  it('find a component with its inputs, though it was made in this very frame', () => {
    const found: string[] = [];
    @Component({ selector: 'nock-part', template: '' })
    class Part {
      readonly of = input.required<string>();
      constructor() {
        inject(Keys).use([{ key: 'Escape', does: 'look', run: () => void found.push(this.of()) }]);
      }
    }
    @Component({ imports: [Part], template: '<nock-part [of]="\'all\'" />' })
    class Page {}
    const page = TestBed.createComponent(Page);
    TestBed.inject(ApplicationRef).attachView(page.componentRef.hostView);
    press('Escape');
    expect(found).toEqual(['all']);
  });

  it('Escape leaves a field where it means nothing else', () => {
    let closes = true;
    TestBed.runInInjectionContext(() => TestBed.inject(Keys).use([{ key: 'Escape', does: 'close it', run: () => closes }]));
    const input = document.body.appendChild(document.createElement('input'));
    input.focus();
    press('Escape', input);
    expect(document.activeElement).toBe(input);
    closes = false;
    press('Escape', input);
    expect(document.activeElement).toBe(document.body);
    input.remove();
  });

  it('ask what was added last first, and go on where it says no', () => {
    const done: string[] = [];
    TestBed.runInInjectionContext(() => {
      const keys = TestBed.inject(Keys);
      keys.use([{ key: 'Z', does: 'below', run: () => void done.push('below') }]);
      keys.use([{ key: 'Z', does: 'above', run: () => (done.push('above'), done.length > 1) }]);
    });
    expect(press('z').defaultPrevented).toBe(true);
    expect(done).toEqual(['above', 'below']);
  });
});
