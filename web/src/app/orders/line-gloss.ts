import type { ElementRef } from '@angular/core';
import { ChangeDetectionStrategy, Component, computed, inject, input, signal, viewChild } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { RouterLink } from '@angular/router';
import type { LineView, OrderView, RouteChoice } from '@nockwright/contract/orders';
import { catchError, combineLatest, debounceTime, map, of, switchMap } from 'rxjs';
import { Session } from '../access';
import { AmountPipe, DayPipe, Keys, PricePipe, Spoken, UnitPipe } from '../paper';
import { LineDetails } from './line-details';
import { OrderStore } from './order-store';
import { PriceGloss } from './price-gloss';
import { changedWords } from './quote/changed-words';

/** The ways that were found, and what was asked. */
interface Offers {
  /** Line and version of the order. */
  readonly of: string;
  readonly asked: string | undefined;
  readonly short: string;
  readonly unit: string;
  readonly routes: readonly RouteChoice[];
}

const NONE = { short: '0', unit: '', routes: [] as readonly RouteChoice[] };

/** What to say about a line, why its days are what they are, the other ways there are, and where its price came from. */
@Component({
  selector: 'nock-line-gloss',
  imports: [RouterLink, MatButton, MatFormField, MatInput, AmountPipe, DayPipe, PricePipe, UnitPipe, LineDetails, PriceGloss, Spoken],
  template: `
    @let view = line();
    <h2>Line {{ view.lineNo }}: {{ view.quantity | amount }} {{ view.unit | unit: view.quantity }} {{ view.item }}</h2>
    @for (word of changed(); track word) {
      <p class="late">
        <b>{{ word }}</b>
      </p>
    }
    @for (reason of view.why; track reason) {
      <p class="reason">{{ reason }}</p>
    }

    @if (view.offered) {
      <nock-price-gloss [order]="order()" [line]="view" [changing]="changing()" />
    }
    <nock-spoken [text]="view.spoken" />
    @if (view.holdsWords) {
      <p class="sure">{{ view.holdsWords }}</p>
    }
    @if (view.schedule.length > 0) {
      <h3>Where they come from</h3>
      @for (entry of view.schedule; track $index) {
        <div class="entry">
          <b>{{ entry.quantity | amount }} on {{ entry.day | day }}</b>
          @if (!entry.kept && order().state === 'released') {
            <span class="quiet"> possible, not promised yet</span>
          }
          @if (entry.arrives) {
            <div class="late">really {{ entry.arrives | day }}: its supply comes later</div>
          }
          @if (entry.broken) {
            <div class="open">no supply is left for it</div>
          }
          <ul>
            @for (peg of entry.from; track $index) {
              <li>
                <span class="figure">{{ peg.quantity | amount }}</span>
                <span>
                  @if (peg.purchase) {
                    <a [routerLink]="['/supply', peg.purchase]">{{ peg.label }}</a>
                  } @else {
                    {{ peg.label }}
                  }
                  @if (peg.days) {
                    <span class="quiet days">{{ peg.days }}</span>
                  }
                </span>
              </li>
            }
          </ul>
        </div>
      }
    }

    @if (view.routes.length > 0) {
      <h3>Routes chosen</h3>
      <ul>
        @for (route of view.routes; track route.id) {
          <li class="chosen">
            <span
              ><b>{{ route.quantity | amount }}</b> {{ names[route.kind] }}
              @if (route.supplier) {
                from {{ route.supplier }}
              }
              @if (route.day) {
                , {{ route.day | day }}
              }
            </span>
            @if (route.purchase) {
              <a [routerLink]="['/supply', route.purchase]">{{ route.purchaseNumber }}</a>
            } @else if (mayChange()) {
              <button mat-button type="button" (click)="store.removeRoute(view, route.id)">Take back</button>
            }
          </li>
        }
      </ul>
    }

    @if (asks()) {
      <h3>Other ways for the {{ asked() ?? offers().short | amount }} {{ offers().unit | unit: offers().short }}</h3>
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
      <ol class="ways">
        @for (route of offers().routes; track $index) {
          <li>
            <button type="button" (click)="store.chooseRoute(view, route)" [disabled]="store.busy() || route.shipDay === null">
              <span class="n">{{ $index + 1 }}</span>
              <b>{{ route.label }}</b>
              <span class="figure">{{ route.marginPercent ?? '–' }} %</span>
              <span class="facts">
                @if (route.shipDay) {
                  leaves {{ route.shipDay | day }},
                  <span [class.late]="route.daysLate! > 0">{{
                    route.daysLate === 0 ? 'in time' : route.daysLate + (route.daysLate === 1 ? ' day late' : ' days late')
                  }}</span>
                } @else {
                  <span class="open">not possible</span>
                }
              </span>
              <span class="small quiet remarks">costs {{ route.unitCost | price }} each; {{ route.remarks.join('; ') }}</span>
            </button>
          </li>
        }
      </ol>
    }

    @if (!view.offered) {
      <nock-price-gloss [order]="order()" [line]="view" [changing]="changing()" />
    }
    @if (mayEdit()) {
      <nock-line-details [order]="order()" [line]="view" />
    }
  `,
  styles: `
    .reason {
      margin: 6px 0 0;
    }
    .sure {
      margin: 8px 0 0;
      font-weight: 600;
    }
    .entry + .entry {
      margin-top: 8px;
    }
    ul,
    ol {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      display: grid;
      grid-template-columns: minmax(44px, auto) 1fr;
      gap: 10px;
      padding: 2px 0;
    }
    .late {
      color: var(--late);
    }
    .open {
      color: var(--open);
    }
    .days {
      display: block;
    }
    .chosen {
      grid-template-columns: 1fr auto;
      align-items: center;
    }
    .part {
      display: flex;
      align-items: center;
      gap: 8px;
    }
    .part mat-form-field {
      width: 86px;
    }
    .ways li {
      display: block;
      padding: 0;
      border-bottom: 1px solid var(--hairline);
    }
    .ways button {
      all: unset;
      box-sizing: border-box;
      width: 100%;
      cursor: pointer;
      display: grid;
      grid-template-columns: 14px 1fr auto;
      gap: 0 8px;
      padding: 6px 4px;
    }
    .ways button:not(:disabled):hover,
    .ways button:focus-visible {
      background: var(--paper-marked);
    }
    .ways button:focus-visible {
      outline: 2px solid var(--act);
    }
    .ways button:disabled {
      cursor: default;
      color: var(--ink-quiet);
    }
    .ways button:disabled .n {
      color: var(--ink-quiet);
    }
    .n {
      color: var(--act);
      font-weight: 700;
    }
    .facts {
      grid-column: 2 / -1;
    }
    .remarks {
      grid-column: 2 / -1;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LineGloss {
  protected readonly store = inject(OrderStore);
  private readonly session = inject(Session);
  private readonly maySell = this.session.maySell;
  private readonly part = viewChild<ElementRef<HTMLInputElement>>('part');
  private readonly spoken = viewChild(Spoken);
  readonly order = input.required<OrderView>();
  readonly line = input.required<LineView>();
  /** The line is being changed and stands here as it would be: no way is taken for it yet. */
  readonly changing = input(false);

  protected readonly names = { backorder: 'wait', special_order: 'special order', drop_ship: 'drop ship' } as const;
  protected readonly wanted = signal('');
  protected readonly mayChange = computed(() => this.maySell() && !this.changing() && this.line().id > 0 && this.line().state !== 'done');
  protected readonly mayEdit = computed(() => this.maySell() && this.order().state === 'draft' && this.line().id > 0 && !this.changing());
  protected readonly changed = computed(() => changedWords(this.line(), this.session.today()));
  /** The part that is asked about, where it is a quantity. */
  protected readonly asked = computed(() => (/^\d+(\.\d{1,4})?$/.test(this.wanted()) && Number(this.wanted()) > 0 ? this.wanted() : undefined));
  protected readonly asks = computed(() => this.mayChange() && (this.line().state === 'late' || this.line().state === 'uncovered' || this.wanted() !== ''));

  private readonly loaded = toSignal(
    combineLatest([toObservable(this.line), toObservable(this.asks), toObservable(this.asked)]).pipe(
      debounceTime(60),
      switchMap(([line, asks, asked]) =>
        (asks ? this.store.routesOf(line, asked).pipe(catchError((error: Error) => (this.store.fault.set(error.message), of(NONE)))) : of(NONE)).pipe(
          map((offers): Offers => ({ of: stateOf(line, this.order()), asked, ...offers })),
        ),
      ),
    ),
    { initialValue: { of: '', asked: undefined, ...NONE } as Offers },
  );
  /** The ways for the line as it stands and the part asked for: while others are fetched there are none to take. */
  protected readonly offers = computed(() => {
    const loaded = this.loaded();
    return loaded.of === stateOf(this.line(), this.order()) && loaded.asked === this.asked() ? loaded : NONE;
  });

  constructor() {
    inject(Keys).use([
      { key: 'R', does: 'route only a part: how many', run: () => this.focusPart() },
      { key: 'C', does: 'copy the sentence to say', run: () => this.spoken()?.copy() },
      ...Array.from({ length: 9 }, (_, at) => ({ key: String(at + 1), does: `take way ${at + 1} of the line`, run: () => this.take(at) })),
    ]);
  }

  private focusPart(): boolean {
    this.part()?.nativeElement.focus();
    return this.part() !== undefined;
  }

  private take(at: number): boolean {
    const route = this.mayChange() ? this.offers().routes[at] : undefined;
    if (!route || route.shipDay === null) return false;
    this.store.chooseRoute(this.line(), route);
    this.wanted.set('');
    return true;
  }
}

function stateOf(line: LineView, order: OrderView): string {
  return `${line.id}/${order.version}`;
}
