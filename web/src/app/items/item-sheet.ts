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
import { AmountPipe, DayPipe, History, PricePipe, Keys, RecordForm, Sheet, UnitPipe, CustomerName } from '../paper';
import { CountForm } from './count-form';
import { EndedForm } from './ended-form';
import { handlingRecord } from './handling-record';
import { ItemTax } from './item-tax';
import { ItemTimeline } from './item-timeline';
import { OtherItems } from './other-items';
import { SoldBy } from './sold-by';
import { QueueMoveForm } from './queue-move-form';
import { QueueTable, type QueueMove } from './queue-table';

/** An item: on hand, committed, available and inbound by warehouse, its timeline, who gets what from what, suppliers. */
@Component({
  selector: 'nock-item-sheet',
  imports: [
    CustomerName,
    RouterLink,
    MatButton,
    CountForm,
    EndedForm,
    RecordForm,
    OtherItems,
    QueueMoveForm,
    QueueTable,
    AmountPipe,
    DayPipe,
    PricePipe,
    UnitPipe,
    History,
    Sheet,
    ItemTax,
    ItemTimeline,
    SoldBy,
  ],
  templateUrl: './item-sheet.html',
  styleUrl: './item-sheet.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ItemSheet {
  readonly code = input.required<string>();
  readonly warehouse = input<string>();
  /** Asked for as discontinued: the form for it stands open. */
  readonly ended = input<string>();
  protected readonly item = signal<ItemPage | null>(null);
  protected readonly history = signal<readonly Happened[]>([]);
  protected readonly fault = signal('');
  protected readonly at = signal<number | null>(null);
  protected readonly chosen = signal<string | null>(null);
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  protected readonly maySell = this.session.maySell;
  protected readonly inOffice = this.session.inOffice;
  protected readonly queue = signal<readonly QueueRow[]>([]);
  /** The row of the queue that has the focus. */
  protected readonly selected = signal<number | null>(null);
  protected readonly moving = signal<QueueMove | null>(null);
  protected readonly counting = signal(false);
  protected readonly ending = signal(false);
  protected readonly handling = signal(false);
  protected readonly record = computed(() => {
    const item = this.item();
    return item && this.handling() ? handlingRecord(this.api, item) : null;
  });
  protected readonly promises = computed(() => (this.item()?.promises ?? []).filter((row) => row.warehouse === this.place()));
  /** The warehouse chosen, else the one where most happens. */
  protected readonly place = computed(() => {
    const pools = this.item()?.pools ?? [];
    const busiest = [...pools].sort((a, b) => b.timeline.length - a.timeline.length)[0];
    return this.chosen() ?? this.warehouse() ?? busiest?.warehouse ?? null;
  });
  protected readonly pool = computed(() => this.item()?.pools.find((pool) => pool.warehouse === this.place()) ?? null);

  constructor() {
    const { api } = this;
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
      { key: 'W', does: 'change its weight and size, and whether it has serial numbers', run: () => this.startHandling() },
      { key: 'X', does: 'discontinue it', run: () => this.end() },
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
    this.closeForms();
    this.moving.set({ row, ahead });
    return true;
  }

  protected end(): boolean {
    if (!this.maySell()) return false;
    this.closeForms();
    this.ending.set(true);
    return true;
  }

  protected show(item: ItemPage): void {
    this.item.set(item);
    this.ending.set(false);
    this.handling.set(false);
  }

  protected startCount(): boolean {
    if (!this.maySell() || !this.pool()) return false;
    this.closeForms();
    this.counting.set(true);
    return true;
  }

  protected startHandling(): boolean {
    if (!this.maySell()) return false;
    this.closeForms();
    this.handling.set(true);
    return true;
  }

  private closeForms(): void {
    this.moving.set(null);
    this.counting.set(false);
    this.ending.set(false);
    this.handling.set(false);
  }

  protected key(event: KeyboardEvent): void {
    const row = event.currentTarget as HTMLElement;
    if (event.key === 'ArrowDown') (row.nextElementSibling as HTMLElement | null)?.focus();
    else if (event.key === 'ArrowUp') (row.previousElementSibling as HTMLElement | null)?.focus();
    else return;
    event.preventDefault();
  }
}
