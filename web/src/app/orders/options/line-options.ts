import { computed, inject, Injectable, linkedSignal, signal, untracked, type Signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import type { ConsentWish, RouteChoice, RouteChoices } from '@nockwright/contract/shortages';
import type { IsoDay } from '@nockwright/core/calendar';
import { catchError, combineLatest, debounceTime, map, of, switchMap } from 'rxjs';
import { Session } from '../../access';
import { type Choice, isQuantity, Keys } from '../../paper';
import { asksCustomer, wishesOf, type PolicyName } from '../../shortages';
import { LineRouting } from '../line-routing';
import { OrderStore } from '../order-store';

/** The options that were found, and what was asked. */
interface Offers extends RouteChoices {
  /** Line and version of the order. */
  readonly of: string;
  readonly asked: string | undefined;
  readonly ranked: PolicyName | undefined;
}

const NONE: RouteChoices = { short: '0', unit: '', policy: 'on_time', frees: [], takesBack: [], routes: [] };

/** The line that is looked at; whether it is being changed, and stands as it would be: no option is taken for it yet. */
interface Looked {
  readonly line: Signal<LineView | null>;
  readonly changing: Signal<boolean>;
}

/** The options for what is short of the line that is looked at: rows under it on the sheet, one of them explained in the gloss. */
@Injectable()
export class LineOptions {
  private readonly store = inject(OrderStore);
  private readonly routing = inject(LineRouting);
  private readonly maySell = inject(Session).maySell;
  private readonly looked = signal<Looked | null>(null);

  readonly line = computed(() => this.looked()?.line() ?? null);
  private readonly changing = computed(() => this.looked()?.changing() ?? false);
  private readonly order = computed(() => this.store.order());
  private readonly lineId = computed(() => this.line()?.id ?? null);
  private readonly state = computed(() => stateOf(this.line(), this.order()));

  /** A part of the quantity that is asked about alone; empty: all that is short. */
  readonly wanted = linkedSignal({ source: this.lineId, computation: () => '' });
  readonly ranked = signal<PolicyName | undefined>(undefined);
  readonly folded = signal(false);
  /** Where a supplier may ship it: the line's own address first. */
  readonly places = computed((): readonly Choice[] => {
    const [line, order] = [this.line(), this.order()];
    if (!line || !order) return [];
    const own = line.shipTo ?? order.shipTo;
    const others = order.customer.shipTos.filter((place) => place.id !== own.id);
    return [own, ...others].map((place) => [String(place.id), `${place.name}, ${place.town}`]);
  });
  private readonly own = computed(() => `${this.lineId()}/${this.places()[0]?.[0] ?? ''}`);
  /** Stays as chosen while the order is read again, unless another line or another address of it is looked at. */
  readonly place = linkedSignal({ source: this.own, computation: () => untracked(this.places)[0]?.[0] ?? '' });
  readonly elsewhere = computed(() => (this.place() === (this.places()[0]?.[0] ?? '') ? undefined : Number(this.place())));
  /** The option the customer is being asked about, while the order may be changed elsewhere; another line is another question. */
  readonly asking = linkedSignal<number | null, RouteChoice | null>({ source: this.lineId, computation: () => null });
  readonly mayChange = computed(() => {
    const line = this.line();
    return line !== null && this.maySell() && !this.changing() && line.id > 0 && line.state !== 'done';
  });
  readonly asked = computed(() => (isQuantity(this.wanted()) && Number(this.wanted()) > 0 ? this.wanted() : undefined));
  readonly asks = computed(() => this.mayChange() && (this.line()!.state === 'late' || this.line()!.state === 'uncovered' || this.wanted() !== ''));

  private readonly loaded = toSignal(
    combineLatest([toObservable(this.line), toObservable(this.asks), toObservable(this.asked), toObservable(this.ranked)]).pipe(
      debounceTime(60),
      switchMap(([line, asks, asked, ranked]) =>
        (asks && line
          ? this.routing.routesOf(line, asked, ranked).pipe(catchError((error: Error) => (this.store.fault.set(error.message), of(NONE))))
          : of(NONE)
        ).pipe(map((offers): Offers => ({ of: stateOf(line, this.order()), asked, ranked, ...offers }))),
      ),
    ),
    { initialValue: { of: '', asked: undefined, ranked: undefined, ...NONE } as Offers },
  );
  /** The state of the line that an option was taken for: until that is done, or refused, nothing that was found for it can be taken. */
  private readonly taken = signal('');
  /** The options for the line as it stands and the part asked for: while others are fetched there are none to take. */
  readonly offers = computed(() => {
    const loaded = this.loaded();
    if (this.store.busy() && loaded.of === this.taken()) return NONE;
    return loaded.of === this.state() && loaded.asked === this.asked() && loaded.ranked === this.ranked() ? loaded : NONE;
  });
  /** What was found last for the line that is looked at, though it is another part or another ranking that is asked about now. */
  readonly last = computed(() => (this.loaded().of === this.state() ? this.loaded() : NONE));
  /** The rows that stand under the line; those of another state of it are not shown. */
  readonly rows = computed(() => (this.asks() && !this.folded() ? this.offers().routes : []));
  /** Which of them is looked at: the best, until another is. */
  readonly at = linkedSignal({ source: () => `${this.state()}/${this.asked() ?? ''}/${this.offers().policy}`, computation: () => 0 });
  readonly current = computed(() => this.rows()[this.at()] ?? null);
  readonly drops = computed(() => this.current()?.parts.some((part) => part.kind === 'drop_ship') ?? false);
  /** Days that the ruler of the sheet must reach. */
  readonly days = computed((): readonly IsoDay[] => this.rows().flatMap((route) => route.parts.flatMap((part) => part.leaves.map((leaving) => leaving.day))));

  constructor() {
    inject(Keys).use(Array.from({ length: 9 }, (_, at) => ({ key: String(at + 1), does: `take option ${at + 1} of the line`, run: () => this.takeAt(at) })));
  }

  /** Says which line is looked at. */
  look(looked: Looked): void {
    this.looked.set(looked);
  }

  /** Whether its rows stand under a line. */
  under(line: number): boolean {
    return this.asks() && this.lineId() === line && this.last().routes.length > 0;
  }

  takeAt(at: number): boolean {
    const route = this.mayChange() && this.asking() === null ? this.offers().routes[at] : undefined;
    if (!route?.possible) return false;
    this.take(route);
    return true;
  }

  /** What the customer must agree to is asked first; a draft is on the phone already, and they are asked in passing. */
  take(route: RouteChoice): void {
    if (asksCustomer(route)) return this.asking.set(route);
    this.taken.set(this.state());
    this.routing.chooseRoute(this.line()!, wishesOf(route, this.elsewhere()));
    this.wanted.set('');
  }

  ask(wish: ConsentWish, agreed: boolean): void {
    this.taken.set(this.state());
    this.routing.ask(this.line()!, wish, agreed, () => {
      this.asking.set(null);
      this.wanted.set('');
    });
  }
}

function stateOf(line: LineView | null, order: OrderView | null): string {
  return line && order ? `${line.id}/${order.version}` : '';
}
