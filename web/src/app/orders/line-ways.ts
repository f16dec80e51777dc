import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, inject, input, linkedSignal, signal, untracked, viewChild } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import type { ConsentWish, RouteChoice, RouteChoices } from '@nockwright/contract/shortages';
import { catchError, combineLatest, debounceTime, map, of, switchMap } from 'rxjs';
import { Session } from '../access';
import { AmountPipe, Keys, ListChoice, UnitPipe, type Choice } from '../paper';
import { QUANTITY } from '../ripple';
import { AskForm, asksCustomer, ChosenRoutes, ConsentNote, RouteWays, wishesOf, type PolicyName } from '../shortages';
import { OrderStore } from './order-store';

/** The ways that were found, and what was asked. */
interface Offers extends RouteChoices {
  /** Line and version of the order. */
  readonly of: string;
  readonly asked: string | undefined;
  readonly ranked: PolicyName | undefined;
}

const NONE: RouteChoices = { short: '0', unit: '', policy: 'on_time', frees: [], takesBack: [], routes: [] };

/** The routes chosen for a line, what the customer is asked about it, and the other ways there are. */
@Component({
  selector: 'nock-line-ways',
  imports: [MatFormField, MatInput, AmountPipe, UnitPipe, ListChoice, AskForm, ChosenRoutes, ConsentNote, RouteWays],
  template: `
    @let view = line();
    @if (view.asked; as asked) {
      <nock-consent-note [asked]="asked" [mayChange]="mayChange()" (answer)="store.answer(asked.consent, $event)" (withdraw)="store.withdraw(asked.consent)" />
    }
    @if (asking(); as route) {
      <nock-ask-form
        [route]="route"
        [line]="view"
        [email]="order().customer.email"
        [shipTo]="elsewhere()"
        (asked)="ask($event.wish, $event.agreed)"
        (left)="asking.set(null)"
      />
    } @else if (asks()) {
      <h3>Ways for the {{ asked() ?? offers().short | amount }} {{ offers().unit | unit: asked() ?? offers().short }}</h3>
      <div class="part">
        <label for="part">for only</label>
        <mat-form-field
          ><input
            matInput
            #part
            id="part"
            class="figure"
            inputmode="decimal"
            [value]="wanted()"
            (input)="wanted.set(part.value.trim())"
            (keydown.enter)="part.blur()"
            placeholder="a part"
            autocomplete="off"
        /></mat-form-field>
        <kbd>R</kbd>
      </div>
      @if (offers().routes.length > 0) {
        <nock-route-ways [choices]="offers()" [requested]="view.requested" [busy]="store.busy()" (take)="take($event)" (policy)="ranked.set($event)" />
      }
      @if (drops() && places().length > 1) {
        <div class="part">
          <span>a drop shipment goes to</span>
          <nock-list-choice what="Where a drop shipment goes" [choices]="places()" [chosen]="place()" (choose)="place.set($event ?? places()[0]![0])" />
        </div>
      }
    }
    @if (view.routes.length > 0) {
      <h3>Routes chosen</h3>
      <nock-chosen-routes
        [released]="order().state === 'released'"
        [routes]="view.routes"
        [mayChange]="mayChange()"
        [look]="look"
        (undo)="store.undoRoute(view, $event.route, $event.supplier)"
        (fault)="store.fault.set($event)"
      />
    }
  `,
  styles: `
    .part {
      display: flex;
      align-items: center;
      gap: 8px;
    }
    .part mat-form-field {
      width: 86px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LineWays {
  protected readonly store = inject(OrderStore);
  private readonly maySell = inject(Session).maySell;
  private readonly part = viewChild<ElementRef<HTMLInputElement>>('part');
  readonly order = input.required<OrderView>();
  readonly line = input.required<LineView>();
  /** The line is being changed and stands here as it would be: no way is taken for it yet. */
  readonly changing = input(false);

  protected readonly wanted = signal('');
  protected readonly ranked = signal<PolicyName | undefined>(undefined);
  private readonly lineId = computed(() => this.line().id);
  private readonly state = computed(() => stateOf(this.line(), this.order()));
  /** Where a supplier may ship it: the line's own address first. */
  protected readonly places = computed((): readonly Choice[] => {
    const own = this.line().shipTo ?? this.order().shipTo;
    const others = this.order().customer.shipTos.filter((place) => place.id !== own.id);
    return [own, ...others].map((place) => [String(place.id), `${place.name}, ${place.town}`]);
  });
  private readonly own = computed(() => `${this.line().id}/${this.places()[0]![0]}`);
  /** Stays as chosen while the order is read again, unless another line or another address of it is looked at. */
  protected readonly place = linkedSignal({ source: this.own, computation: () => untracked(this.places)[0]![0] });
  protected readonly elsewhere = computed(() => (this.place() === this.places()[0]![0] ? undefined : Number(this.place())));
  protected readonly drops = computed(() => this.offers().routes.some(({ parts }) => parts.some((part) => part.kind === 'drop_ship')));
  /** The way the customer is being asked about, while the order may be changed elsewhere; another line is another question. */
  protected readonly asking = linkedSignal<number, RouteChoice | null>({ source: this.lineId, computation: () => null });
  protected readonly mayChange = computed(() => this.maySell() && !this.changing() && this.line().id > 0 && this.line().state !== 'done');
  /** The part that is asked about, where it is a quantity. */
  protected readonly asked = computed(() => (QUANTITY.test(this.wanted()) && Number(this.wanted()) > 0 ? this.wanted() : undefined));
  protected readonly asks = computed(() => this.mayChange() && (this.line().state === 'late' || this.line().state === 'uncovered' || this.wanted() !== ''));
  protected readonly look = (route: number) => this.store.previewUndo(this.line(), route);

  private readonly loaded = toSignal(
    combineLatest([toObservable(this.line), toObservable(this.asks), toObservable(this.asked), toObservable(this.ranked)]).pipe(
      debounceTime(60),
      switchMap(([line, asks, asked, ranked]) =>
        (asks ? this.store.routesOf(line, asked, ranked).pipe(catchError((error: Error) => (this.store.fault.set(error.message), of(NONE)))) : of(NONE)).pipe(
          map((offers): Offers => ({ of: stateOf(line, this.order()), asked, ranked, ...offers })),
        ),
      ),
    ),
    { initialValue: { of: '', asked: undefined, ranked: undefined, ...NONE } as Offers },
  );
  /** The ways for the line as it stands and the part asked for: while others are fetched there are none to take. */
  protected readonly offers = computed(() => {
    const loaded = this.loaded();
    return loaded.of === this.state() && loaded.asked === this.asked() && loaded.ranked === this.ranked() ? loaded : NONE;
  });

  constructor() {
    inject(Keys).use([
      { key: 'R', does: 'route only a part: how many', run: () => this.focusPart() },
      ...Array.from({ length: 9 }, (_, at) => ({ key: String(at + 1), does: `take way ${at + 1} of the line`, run: () => this.takeAt(at) })),
    ]);
  }

  private focusPart(): boolean {
    this.part()?.nativeElement.focus();
    return this.part() !== undefined;
  }

  private takeAt(at: number): boolean {
    const route = this.mayChange() && this.asking() === null ? this.offers().routes[at] : undefined;
    if (!route?.possible) return false;
    this.take(route);
    return true;
  }

  /** What the customer must agree to is asked first; a draft is on the phone already, and they are asked in passing. */
  protected take(route: RouteChoice): void {
    if (asksCustomer(route)) return this.asking.set(route);
    this.store.chooseRoute(this.line(), wishesOf(route, this.elsewhere()));
    this.wanted.set('');
  }

  protected ask(wish: ConsentWish, agreed: boolean): void {
    this.store.ask(this.line(), wish, agreed, () => {
      this.asking.set(null);
      this.wanted.set('');
    });
  }
}

function stateOf(line: LineView, order: OrderView): string {
  return `${line.id}/${order.version}`;
}
