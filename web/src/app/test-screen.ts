import type { Provider, Type } from '@angular/core';
import { signal } from '@angular/core';
import { TestBed, type ComponentFixture } from '@angular/core/testing';
import { provideRouter } from '@angular/router';
import type { AnyRoute, Role } from '@nockwright/contract/shape';
import { EMPTY, merge, of, Subject, switchMap, type Observable } from 'rxjs';
import { Session } from './access';
import { Api } from './api';
import { Live } from './live';

/** Longer than anything waits that is typed. */
const TYPED_MS = 400;

/** A component as it stands in a spec, and what somebody does with it. Specs that use it have fake timers. */
export class TestScreen<T> {
  readonly element: HTMLElement;

  constructor(readonly fixture: ComponentFixture<T>) {
    this.element = fixture.nativeElement as HTMLElement;
    this.settle();
  }

  /** Lets everything come about that was waited for. */
  settle(): void {
    for (let round = 0; round < 2; round++) {
      this.fixture.detectChanges();
      TestBed.tick();
      jest.advanceTimersByTime(TYPED_MS);
    }
    this.fixture.detectChanges();
  }

  set(name: string, value: unknown): void {
    this.fixture.componentRef.setInput(name, value);
    this.settle();
  }

  /** The element a label or its `aria-label` names. */
  field(label: string): HTMLInputElement {
    const named = [...this.element.querySelectorAll<HTMLInputElement>('input, textarea')].find((one) => this.nameOf(one) === label);
    if (!named) throw new Error(`no field ${label}`);
    return named;
  }

  type(label: string, text: string): void {
    const field = this.field(label);
    field.value = text;
    field.dispatchEvent(new Event('input'));
    this.settle();
  }

  /** A key on an element, or where nothing has the focus. */
  press(key: string, on: Element = document.body, more: KeyboardEventInit = {}): void {
    on.dispatchEvent(new KeyboardEvent('keydown', { key, bubbles: true, cancelable: true, ...more }));
    this.settle();
  }

  button(words: string): HTMLButtonElement {
    const found = [...this.element.querySelectorAll('button')].find((one) => one.textContent.includes(words) || one.getAttribute('aria-label') === words);
    if (!found) throw new Error(`no button ${words}`);
    return found;
  }

  click(words: string): void {
    this.button(words).click();
    this.settle();
  }

  get text(): string {
    return this.element.textContent.replace(/\s+/g, ' ').trim();
  }

  private nameOf(one: HTMLElement): string {
    return one.getAttribute('aria-label') ?? this.element.querySelector(`label[for="${one.id}"]`)?.textContent.trim() ?? '';
  }
}

/** The screens' one api and what changes meanwhile, for specs: `api.call` is a mock, what is kept is fetched again with `changed`. */
export function testApi() {
  const api = { call: jest.fn() };
  const changed = new Subject<void>();
  const live = {
    kept: (fetch: () => Observable<unknown>, _concerns: unknown, again: Observable<unknown> = EMPTY) =>
      merge(of(undefined), changed, again).pipe(switchMap(() => fetch())),
  };
  const providers: Provider[] = [
    { provide: Api, useValue: api },
    { provide: Live, useValue: live },
  ];
  /** What each route answers from now on; one that is not named answers nothing. */
  const answers = (...pairs: readonly (readonly [route: unknown, reply: unknown])[]) => {
    const replies = new Map(pairs);
    api.call.mockImplementation((route: unknown) => (replies.has(route) ? of(replies.get(route)) : EMPTY));
  };
  /** What the last call sent; what only reads sends nothing. */
  const lastBody = () => (api.call.mock.calls as [unknown, { body?: unknown }?][]).findLast(([, input]) => input?.body !== undefined)?.[1]?.body;
  return { api, providers, lastBody, answers, changed };
}

/** Who is logged in, in specs. */
export function testSession(role = 'coordinator') {
  const sells = role === 'coordinator' || role === 'manager';
  return {
    today: signal('2027-03-09'),
    currency: signal('EUR'),
    firm: signal('Fell & Moor Supply'),
    user: signal({ name: 'Ida Perrin', role }),
    maySell: signal(sells),
    mayMove: signal(role !== 'finance'),
    mayPlan: signal(role === 'manager'),
    inOffice: signal(role !== 'warehouse'),
    may: ({ roles }: { readonly roles: AnyRoute['roles'] }) => roles === 'public' || roles.includes(role as Role),
  };
}

/**
 * Shows a component with its inputs, in place of one that was shown before; `providers` besides router and session. What can
 * only be made where things are injected is set by `more`.
 */
export function show<T>(
  component: Type<T>,
  inputs: Readonly<Record<string, unknown>>,
  providers: readonly Provider[],
  role?: string,
  more?: (set: (name: string, value: unknown) => void) => void,
): TestScreen<T> {
  TestBed.resetTestingModule();
  TestBed.configureTestingModule({ providers: [provideRouter([]), { provide: Session, useValue: testSession(role) }, ...providers] });
  const fixture = TestBed.createComponent(component);
  for (const [name, value] of Object.entries(inputs)) fixture.componentRef.setInput(name, value);
  if (more) TestBed.runInInjectionContext(() => more((name, value) => fixture.componentRef.setInput(name, value)));
  return new TestScreen(fixture);
}
