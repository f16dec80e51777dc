import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { itemRoutes, type ItemPage, type QueueRow } from '@nockwright/contract/items';
import type { Happened } from '@nockwright/contract/shape';
import { catchError, combineLatest, EMPTY, forkJoin, of, switchMap } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';
import { Live } from '../live';
import { AmountPipe, DayPipe, History, PricePipe, Keys, Sheet, UnitPipe } from '../paper';
import { CountForm } from './count-form';
import { EndedForm } from './ended-form';
import { ItemTimeline } from './item-timeline';
import { OtherItems } from './other-items';
import { SoldBy } from './sold-by';
import { QueueMoveForm } from './queue-move-form';
import { QueueTable, type QueueMove } from './queue-table';

/** An item: on hand, committed, available and inbound by warehouse, its timeline, who gets what from what, suppliers. */
@Component({
  selector: 'nock-item-sheet',
  imports: [
    RouterLink,
    MatButton,
    CountForm,
    EndedForm,
    OtherItems,
    QueueMoveForm,
    QueueTable,
    AmountPipe,
    DayPipe,
    PricePipe,
    UnitPipe,
    History,
    Sheet,
    ItemTimeline,
    SoldBy,
  ],
  template: `
    @if (item(); as item) {
      <nock-sheet>
        <ng-container sheet>
          <h1>
            <span class="code">{{ item.code }}</span> {{ item.description }}
            @if (item.discontinued) {
              <span class="quiet state"
                >discontinued
                @if (item.successor) {
                  and followed by <a [routerLink]="['/items', item.successor]">{{ item.successor }}</a>
                }
              </span>
            }
          </h1>
          <p class="quiet">
            {{ item.group }}. List {{ item.listPrice | price }}, cost {{ item.cost | price }}.
            @for (unit of item.units.slice(1); track unit.code) {
              1 {{ unit.name }} = {{ unit.numerator }}{{ unit.denominator === '1' ? '' : '/' + unit.denominator }} {{ item.unit | unit: unit.numerator }}.
            }
          </p>
          <table class="ruled pools" aria-label="Stock by warehouse">
            <thead>
              <tr>
                <th>Warehouse</th>
                <th class="figure">On hand</th>
                <th class="figure">Being picked</th>
                <th class="figure">Due</th>
                <th class="figure">Committed</th>
                <th class="figure">To promise</th>
              </tr>
            </thead>
            <tbody>
              @for (pool of item.pools; track pool.warehouse) {
                <tr
                  tabindex="0"
                  [class.marked]="pool.warehouse === place()"
                  (focus)="chosen.set(pool.warehouse)"
                  (click)="chosen.set(pool.warehouse)"
                  (keydown)="key($event)"
                >
                  <td>
                    <b>{{ pool.name }}</b>
                  </td>
                  <td class="figure">{{ pool.onHand | amount }}</td>
                  <td class="figure">{{ pool.allocated | amount }}</td>
                  <td class="figure">{{ pool.inbound | amount }}</td>
                  <td class="figure">{{ pool.committed | amount }}</td>
                  <td class="figure">
                    <b>{{ pool.available | amount }}</b>
                  </td>
                </tr>
              }
            </tbody>
          </table>
          @if (pool(); as pool) {
            <h2 class="chart">{{ pool.name }}, day by day</h2>
            <nock-item-timeline [steps]="pool.timeline" [(at)]="at" />
            <h2 class="chart">Whose turn it is</h2>
            <nock-queue-table [rows]="queue()" [movable]="maySell()" [(selected)]="selected" (moved)="moving.set($event)" />
            <h2 class="chart">Supply and promises</h2>
            <table class="ruled" aria-label="Supply and promises by day">
              <thead>
                <tr>
                  <th>Day</th>
                  <th>What</th>
                  <th class="figure">Change</th>
                  <th class="figure">Projected</th>
                  <th class="figure">To promise</th>
                </tr>
              </thead>
              <tbody>
                @for (step of pool.timeline; track $index) {
                  <tr [class.marked]="at() === $index" (mouseenter)="at.set($index)">
                    <td>{{ step.day | day }}</td>
                    <td>
                      @if (step.order) {
                        <a [routerLink]="['/orders', step.order]">{{ step.label }}</a>
                      } @else if (step.purchase) {
                        <a [routerLink]="['/supply', step.purchase]">{{ step.label }}</a>
                      } @else {
                        {{ step.label }}
                      }
                    </td>
                    <td class="figure">{{ step.change | amount }}</td>
                    <td class="figure">{{ step.projected | amount }}</td>
                    <td class="figure">{{ step.available | amount }}</td>
                  </tr>
                } @empty {
                  <tr>
                    <td colspan="5" class="quiet">Nothing on hand, due or promised here.</td>
                  </tr>
                }
              </tbody>
            </table>
          }
          <h2 class="chart">What is promised to whom, from what</h2>
          <table class="ruled" aria-label="Promises and what they rest on">
            <thead>
              <tr>
                <th>Leaves</th>
                <th>Order</th>
                <th>Customer</th>
                <th class="figure">Quantity</th>
                <th>From</th>
              </tr>
            </thead>
            <tbody>
              @for (row of promises(); track $index) {
                <tr>
                  <td [class.late]="row.atRisk">{{ row.day | day }}{{ row.atRisk ? ', at risk' : '' }}</td>
                  <td>
                    <a [routerLink]="['/orders', row.order]">{{ row.number }}/{{ row.lineNo }}</a>
                  </td>
                  <td>{{ row.customer }}</td>
                  <td class="figure">{{ row.quantity | amount }}</td>
                  <td>
                    @for (part of row.from; track $index) {
                      <div>
                        {{ row.from.length > 1 ? (part.quantity | amount) + ' from ' : '' }}
                        @if (part.purchase) {
                          <a [routerLink]="['/supply', part.purchase]">{{ part.label }}</a>
                        } @else {
                          {{ part.label }}
                        }
                      </div>
                    }
                  </td>
                </tr>
              } @empty {
                <tr>
                  <td colspan="5" class="quiet">Nothing of it is promised here.</td>
                </tr>
              }
            </tbody>
          </table>
        </ng-container>
        <ng-container gloss>
          @if (ending()) {
            <nock-ended-form [item]="item" (changed)="show($event)" (closed)="ending.set(false)" />
          } @else if (moving(); as move) {
            <nock-queue-move-form [move]="move" [queue]="queue()" (closed)="moving.set(null)" />
          } @else if (counting() && pool()) {
            <nock-count-form [item]="item.code" [pool]="pool()!" (closed)="counting.set(false)" />
          } @else {
            <h2>Suppliers</h2>
            @for (supplier of item.suppliers; track supplier.code) {
              <p>
                <a [routerLink]="['/supply/suppliers', supplier.code]"
                  ><b>{{ supplier.name }}</b></a
                >, their <span class="code small">{{ supplier.theirCode }}</span><br />
                {{ supplier.cost | price }} each, {{ supplier.leadDays }} working days, at least {{ supplier.minimum }} in lots of {{ supplier.multiple
                }}{{ supplier.dropShips ? ', ships to customers' : '' }}
              </p>
            } @empty {
              <p class="quiet">No supplier is known.</p>
            }
            <nock-sold-by [item]="item" (changed)="show($event)" />
            <nock-other-items heading="May go instead of it" words="for one" [items]="item.substitutes" />
            <nock-other-items heading="It may go instead of" words="of it for one" [items]="item.insteadOf" />
            <nock-other-items heading="Put together from" words="each" [items]="item.components" />
            <nock-other-items heading="Is a part of" words="of it in each" [items]="item.partOf" />
            @if (item.components.length > 0 && maySell()) {
              <p><a routerLink="/supply/assemblies/new" [queryParams]="{ item: item.code }">Put some together</a></p>
            }
            <p><a routerLink="/items/places" [queryParams]="{ q: item.code }">Where it stands: bins and lots</a></p>
            @if (inOffice()) {
              <h3>What happened</h3>
              <nock-history [rows]="history()" />
            }
          }
        </ng-container>
        <ng-container acts>
          @if (maySell()) {
            <button mat-flat-button type="button" (click)="startMove()" [disabled]="queue().length < 2">Move up in the queue <kbd>U</kbd></button>
            <button mat-button type="button" (click)="startCount()">Correct the count <kbd>C</kbd></button>
            <button mat-button type="button" (click)="end()">
              {{ item.discontinued ? 'Made again, or another successor' : 'No longer made' }} <kbd>X</kbd>
            </button>
          }
          <span class="quiet">↑ ↓ from row to row, Alt ↑ moves an order up</span>
        </ng-container>
      </nock-sheet>
    } @else {
      <p class="none quiet" role="status">{{ fault() || 'Fetching the item …' }}</p>
    }
  `,
  styles: `
    .state {
      font-size: 13px;
      font-weight: 400;
    }
    .pools {
      max-width: 720px;
      margin-top: 12px;
    }
    .chart {
      margin: 20px 0 4px;
    }
    p {
      margin: 6px 0;
    }
    .late {
      color: var(--late);
    }
    .none {
      padding: 40px 20px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ItemSheet {
  readonly code = input.required<string>();
  readonly warehouse = input<string>();
  /** Asked for as no longer made: the form for it stands open. */
  readonly ended = input<string>();
  protected readonly item = signal<ItemPage | null>(null);
  protected readonly history = signal<readonly Happened[]>([]);
  protected readonly fault = signal('');
  protected readonly at = signal<number | null>(null);
  protected readonly chosen = signal<string | null>(null);
  private readonly session = inject(Session);
  protected readonly maySell = this.session.maySell;
  protected readonly inOffice = this.session.inOffice;
  protected readonly queue = signal<readonly QueueRow[]>([]);
  /** The row of the queue that has the focus. */
  protected readonly selected = signal<number | null>(null);
  protected readonly moving = signal<QueueMove | null>(null);
  protected readonly counting = signal(false);
  protected readonly ending = signal(false);
  protected readonly promises = computed(() => (this.item()?.promises ?? []).filter((row) => row.warehouse === this.place()));
  /** The warehouse chosen, else the one where most happens. */
  protected readonly place = computed(() => {
    const pools = this.item()?.pools ?? [];
    const busiest = [...pools].sort((a, b) => b.timeline.length - a.timeline.length)[0];
    return this.chosen() ?? this.warehouse() ?? busiest?.warehouse ?? null;
  });
  protected readonly pool = computed(() => this.item()?.pools.find((pool) => pool.warehouse === this.place()) ?? null);

  constructor() {
    const api = inject(Api);
    const live = inject(Live);
    toObservable(this.code)
      .pipe(
        switchMap((code) =>
          live.kept(
            () =>
              forkJoin([
                api.call(itemRoutes.readItem, { params: { item: code } }),
                this.session.may(itemRoutes.itemHistory) ? api.call(itemRoutes.itemHistory, { params: { item: code } }) : of([]),
              ]).pipe(
                catchError((error: Error) => {
                  this.fault.set(error.message);
                  return EMPTY;
                }),
              ),
            (topic) => topic === `item:${code}`,
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe(([item, history]) => {
        this.item.set(item);
        this.history.set(history);
      });
    combineLatest([toObservable(this.code), toObservable(this.place)])
      .pipe(
        switchMap(([item, warehouse]) =>
          warehouse === null
            ? of([])
            : live.kept(
                () => api.call(itemRoutes.readQueue, { params: { item }, query: { warehouse } }).pipe(catchError(() => of([]))),
                (topic) => topic === `item:${item}` || this.queue().some((row) => topic === `order:${row.order}`),
              ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((rows) => this.queue.set(rows));
    effect(() => {
      if (this.ended() !== undefined && this.item() !== null) untracked(() => this.end());
    });
    const router = inject(Router);
    inject(Keys).use([
      { key: 'U', does: 'move the order of the row up in the queue', run: () => this.startMove() },
      { key: 'C', does: 'correct what is on hand to what was counted', run: () => this.startCount() },
      { key: 'X', does: 'it is no longer made', run: () => this.end() },
      { key: 'Escape', does: 'to all items', run: () => void router.navigateByUrl('/items') },
    ]);
  }

  /** The order of the row in focus goes ahead of the one before it; the form lets another be chosen. */
  protected startMove(): boolean {
    const rows = this.queue();
    const at = Math.max(
      1,
      rows.findIndex((row) => row.line === this.selected()),
    );
    const [row, ahead] = [rows[at], rows.slice(0, at).findLast((other) => other.order !== rows[at]?.order)];
    if (!this.maySell() || !row || !ahead) return false;
    this.counting.set(false);
    this.ending.set(false);
    this.moving.set({ row, ahead });
    return true;
  }

  protected end(): boolean {
    if (!this.maySell()) return false;
    this.moving.set(null);
    this.counting.set(false);
    this.ending.set(true);
    return true;
  }

  protected show(item: ItemPage): void {
    this.item.set(item);
    this.ending.set(false);
  }

  protected startCount(): boolean {
    if (!this.maySell() || !this.pool()) return false;
    this.moving.set(null);
    this.ending.set(false);
    this.counting.set(true);
    return true;
  }

  protected key(event: KeyboardEvent): void {
    const row = event.currentTarget as HTMLElement;
    if (event.key === 'ArrowDown') (row.nextElementSibling as HTMLElement | null)?.focus();
    else if (event.key === 'ArrowUp') (row.previousElementSibling as HTMLElement | null)?.focus();
    else return;
    event.preventDefault();
  }
}
