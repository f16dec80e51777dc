import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { RouterLink } from '@angular/router';
import { shippingRoutes, type PickView, type ReadyOrder, type ShippingBoard } from '@nockwright/contract/shipping';
import { catchError, EMPTY, finalize, Subject, switchMap, type Observable } from 'rxjs';
import { Api } from '../api';
import { Live } from '../live';
import { addressWords, AmountPipe, DayPipe, FilterField, Keys, ListChoice, QuantityField, UnitPipe, type Choice } from '../paper';
import { Places } from '../supply';

/** Orders that are drawn at first. */
const PAGE = 60;

/** What can leave, what is due first first, and what is being picked. Works on a phone, in the aisle. */
@Component({
  selector: 'nock-shipping-board',
  imports: [FilterField, ListChoice, QuantityField, RouterLink, MatButton, MatFormField, MatInput, AmountPipe, DayPipe, UnitPipe],
  template: `
    <div class="list-head">
      <h1>Shipping</h1>
      <nock-filter what="shipments" [text]="q() ?? ''" (typed)="filter({ q: $event || null })" hint="filter by order, customer, item" />
      <nock-list-choice what="Warehouse" [choices]="places()" [chosen]="warehouse() ?? ''" (choose)="filter({ warehouse: $event })" />
      <a mat-button routerLink="/receiving" [queryParams]="{ warehouse: warehouse() ?? null }">Receiving</a>
      <p class="fault" role="alert">{{ fault() }}</p>
    </div>
    <div class="columns">
      <section aria-label="Ready to pick">
        <h2>
          Ready to pick <span class="quiet">{{ board().count + '' | amount }}</span>
        </h2>
        @for (order of ready(); track keyOf(order)) {
          <article tabindex="0" [class.open]="chosen() === keyOf(order)" (focus)="choose(order)">
            <header>
              <a class="code" [routerLink]="['/orders', order.order]">{{ order.number }}</a> <b>{{ order.customer }}</b>
              <span class="day" [class.due]="order.due">{{ order.due ? 'due' : '' }} {{ order.day | day }}</span>
            </header>
            <p class="quiet">{{ order.town }}, {{ order.carrier }}, from {{ order.warehouse }}{{ order.shipComplete ? ', complete' : '' }}</p>
            @for (line of order.lines; track line.line) {
              <div class="line">
                <span class="code">{{ line.item }}</span>
                <span class="what">{{ line.description }}</span>
                @if (chosen() === keyOf(order)) {
                  <nock-quantity-field
                    class="take"
                    [label]="'Quantity of ' + line.item + ' to pick'"
                    [quantity]="take()[line.line] ?? line.quantity"
                    (typed)="set(line.line, $event)"
                  />
                } @else {
                  <span class="figure">{{ line.quantity | amount }}</span>
                }
                <span class="unit">{{ line.unit | unit: line.quantity }}</span>
              </div>
            }
            @if (chosen() === keyOf(order)) {
              <button mat-flat-button type="button" (click)="start(order)" [disabled]="busy()">Start the pick <kbd>Ctrl Enter</kbd></button>
            }
          </article>
        } @empty {
          <p class="quiet none">{{ loaded() ? 'Nothing that matches is on hand for an order.' : 'Looking …' }}</p>
        }
        @if (board().count > ready().length) {
          <button mat-button type="button" (click)="most.set(most() + page)">Show more of the {{ board().count + '' | amount }}</button>
        }
      </section>
      <section aria-label="Being picked">
        <h2>
          Being picked <span class="quiet">{{ picking().length }}</span>
        </h2>
        @for (pick of picking(); track pick.id) {
          <article class="open" tabindex="0" (focus)="chosen.set('pick-' + pick.id)">
            <header>
              <span class="code">{{ pick.number }}</span> <b>{{ pick.customer }}</b>
              <a class="code" [routerLink]="['/orders', pick.order]">{{ pick.orderNumber }}</a>
            </header>
            <p class="quiet">{{ pick.address }}. {{ pick.carrier }}, from {{ pick.warehouse }}</p>
            @for (line of pick.lines; track line.line) {
              <div class="line">
                <span class="code">{{ line.item }}</span>
                <span class="what">{{ line.description }}</span>
                <b class="figure">{{ line.quantity | amount }}</b>
                <span class="unit"
                  >{{ line.unit | unit: line.quantity
                  }}{{
                    line.orderUnit !== line.unit && line.orderQuantity ? ' = ' + line.orderQuantity + ' ' + (line.orderUnit | unit: line.orderQuantity) : ''
                  }}</span
                >
              </div>
            }
            <div class="acts">
              <mat-form-field class="tracking"
                ><input
                  matInput
                  #tracking
                  class="code"
                  placeholder="tracking number"
                  [attr.aria-label]="'Tracking number of ' + pick.number"
                  (input)="track(pick.id, tracking.value)"
                  autocomplete="off"
              /></mat-form-field>
              <button mat-flat-button type="button" (click)="ship(pick)" [disabled]="busy()">It has left <kbd>Ctrl Enter</kbd></button>
              <button mat-button type="button" (click)="putBack(pick)" [disabled]="busy()">Put back</button>
            </div>
          </article>
        } @empty {
          <p class="quiet none">Nothing is being picked.</p>
        }
      </section>
    </div>
  `,
  styles: `
    .columns {
      display: grid;
      grid-template-columns: 1fr 1fr;
      gap: 36px;
    }
    h2 {
      padding-bottom: 4px;
      border-bottom: 1px solid var(--rule);
    }
    article {
      padding: 9px 8px;
      border-bottom: 1px solid var(--hairline);
    }
    article:focus-visible,
    section:first-child article.open {
      background: var(--paper-marked);
      box-shadow: inset 3px 0 0 var(--act);
      outline: none;
    }
    article header {
      display: flex;
      gap: 10px;
      align-items: baseline;
    }
    article p {
      margin: 1px 0 5px;
      font-size: 12.5px;
    }
    .day {
      margin-left: auto;
      white-space: nowrap;
    }
    .due {
      font-weight: 700;
    }
    .line {
      display: grid;
      grid-template-columns: 118px minmax(0, 1fr) 76px minmax(44px, auto);
      gap: 10px;
      align-items: center;
      min-height: 26px;
    }
    .what {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .acts {
      display: flex;
      align-items: center;
      gap: 10px;
      margin-top: 6px;
    }
    article > button {
      margin-top: 6px;
    }
    .tracking {
      max-width: 190px;
    }
    .fault {
      margin: 0;
      color: var(--open);
      font-weight: 600;
    }
    @media (max-width: 820px) {
      :host {
        padding: 10px;
      }
      .columns {
        grid-template-columns: 1fr;
      }
      .line {
        grid-template-columns: 1fr 70px 60px;
        padding: 4px 0;
      }
      .what {
        grid-row: 2;
        grid-column: 1 / -1;
        font-size: 12.5px;
        color: var(--ink-quiet);
      }
      .acts {
        flex-wrap: wrap;
      }
      .acts button,
      article > button {
        min-height: 44px;
      }
      kbd {
        display: none;
      }
    }
  `,
  host: { class: 'list-page' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ShippingBoardPage {
  private readonly api = inject(Api);
  protected readonly filter = addressWords();
  private readonly warehouses = inject(Places).warehouses;
  protected readonly places = computed((): readonly Choice[] => [['', 'all warehouses'], ...this.warehouses().map(({ code, name }): Choice => [code, name])]);
  protected readonly page = PAGE;
  readonly q = input<string>();
  readonly warehouse = input<string>();

  protected readonly board = signal<ShippingBoard>({ ready: [], count: 0, picking: [] });
  protected readonly loaded = signal(false);
  protected readonly fault = signal('');
  protected readonly busy = signal(false);
  protected readonly chosen = signal<string | null>(null);
  protected readonly take = signal<Readonly<Record<number, string>>>({});
  private readonly tracking = signal<Readonly<Record<number, string>>>({});
  private readonly again = new Subject<void>();

  protected readonly ready = computed(() => this.board().ready);
  protected readonly most = signal(PAGE);
  protected readonly picking = computed(() =>
    this.board().picking.filter((pick) => this.matches(`${pick.number} ${pick.orderNumber} ${pick.customer}`, pick.lines)),
  );

  constructor() {
    const live = inject(Live);
    toObservable(computed(() => ({ warehouse: this.warehouse(), q: this.q(), most: this.most() })))
      .pipe(
        switchMap(({ warehouse, q, most }) =>
          live.kept(
            () =>
              this.api
                .call(shippingRoutes.readBoard, { query: { most, ...(warehouse ? { warehouse } : {}), ...(q ? { q } : {}) } })
                .pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
            (topic) => topic.startsWith('order:') || topic.startsWith('shipment:') || topic.startsWith('purchase:'),
            this.again,
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((board) => {
        this.board.set(board);
        this.loaded.set(true);
      });
    inject(Keys).use([{ key: 'Ctrl+Enter', does: 'start the pick; it has left', run: () => this.mainAct() }]);
  }

  protected keyOf(order: ReadyOrder): string {
    // Lines of one order that go to different addresses are picked apart.
    return `${order.order}/${order.warehouse}/${order.lines[0]!.line}`;
  }

  protected choose(order: ReadyOrder): void {
    if (this.chosen() === this.keyOf(order)) return;
    this.chosen.set(this.keyOf(order));
    this.take.set({});
  }

  protected set(line: number, quantity: string): void {
    this.take.update((take) => ({ ...take, [line]: quantity }));
  }

  protected track(pick: number, tracking: string): void {
    this.tracking.update((known) => ({ ...known, [pick]: tracking.trim() }));
  }

  protected start(order: ReadyOrder): void {
    const lines = order.lines
      .map((line) => ({ line: line.line, quantity: this.take()[line.line] ?? line.quantity }))
      .filter((line) => line.quantity !== '' && line.quantity !== '0');
    this.run(this.api.call(shippingRoutes.startPick, { body: { order: order.order, warehouse: order.warehouse, lines } }), (pick) =>
      this.chosen.set(`pick-${pick.id}`),
    );
  }

  protected ship(pick: PickView): void {
    this.run(this.api.call(shippingRoutes.ship, { params: { shipment: pick.id }, body: { tracking: this.tracking()[pick.id] ?? '' } }), () =>
      this.chosen.set(null),
    );
  }

  protected putBack(pick: PickView): void {
    this.run(this.api.call(shippingRoutes.cancelPick, { params: { shipment: pick.id }, body: { reason: 'put back on the shelf' } }), () =>
      this.chosen.set(null),
    );
  }

  private mainAct(): boolean {
    const ready = this.ready().find((order) => this.keyOf(order) === this.chosen());
    const pick = this.picking().find((row) => `pick-${row.id}` === this.chosen());
    if (ready) this.start(ready);
    else if (pick) this.ship(pick);
    return ready !== undefined || pick !== undefined;
  }

  private run(command: Observable<PickView>, done: (pick: PickView) => void) {
    if (this.busy()) return;
    this.busy.set(true);
    this.fault.set('');
    command.pipe(finalize(() => this.busy.set(false))).subscribe({
      next: (pick) => {
        this.take.set({});
        done(pick);
        this.again.next();
      },
      error: (error: Error) => {
        this.fault.set(error.message);
        this.again.next();
      },
    });
  }

  private matches(text: string, lines: readonly { readonly item: string; readonly description: string }[]): boolean {
    const words = (this.q() ?? '').toLowerCase().split(/\s+/).filter(Boolean);
    const all = `${text} ${lines.map((line) => `${line.item} ${line.description}`).join(' ')}`.toLowerCase();
    return words.every((word) => all.includes(word));
  }
}
