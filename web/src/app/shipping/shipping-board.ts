import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { MatCheckbox } from '@angular/material/checkbox';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { Router, RouterLink } from '@angular/router';
import { shippingRoutes, type NotGoingRow, type PickView, type ReadyOrder, type ShippingBoard } from '@nockwright/contract/shipping';
import { shortDay } from '@nockwright/core/calendar';
import { catchError, EMPTY, finalize, Subject, switchMap, type Observable } from 'rxjs';
import { Api } from '../api';
import { Live } from '../live';
import { addressWords, AmountPipe, DayPipe, FilterField, Keys, ListChoice, QuantityField, UnitPipe, type Choice } from '../paper';
import { Session } from '../access';
import { Places } from '../supply';
import { mendOf, notGoingWords } from './not-going-words';
import { STOPS } from './rules/stop-words';

const STAGES: Readonly<Record<PickView['stage'], string>> = {
  to_pick: 'to pick',
  picking: 'picking',
  picked: 'picked',
  packing: 'packing',
  packed: 'packed',
  labelled: 'labelled',
  left: 'shipped',
};

/** Orders that are drawn at first. */
const PAGE = 60;

/** What can leave, what is due first first, and what is being picked. Works on a phone, in the aisle. */
@Component({
  selector: 'nock-shipping-board',
  imports: [MatCheckbox, FilterField, ListChoice, QuantityField, RouterLink, MatButton, MatFormField, MatInput, AmountPipe, DayPipe, UnitPipe],
  templateUrl: './shipping-board.html',
  styleUrl: './shipping-board.css',
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
  readonly service = input<string>();

  protected readonly board = signal<ShippingBoard>({ ready: [], count: 0, picking: [], leaving: [], notGoing: [] });
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
    toObservable(computed(() => ({ warehouse: this.warehouse(), service: this.service(), q: this.q(), most: this.most() })))
      .pipe(
        switchMap(({ warehouse, service, q, most }) =>
          live.kept(
            () =>
              this.api
                .call(shippingRoutes.readBoard, { query: { most, ...(warehouse ? { warehouse } : {}), ...(service ? { service } : {}), ...(q ? { q } : {}) } })
                .pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
            (topic) => topic.startsWith('order:') || topic.startsWith('shipment:') || topic.startsWith('consignment:') || topic.startsWith('purchase:'),
            this.again,
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((board) => {
        this.board.set(board);
        this.loaded.set(true);
      });
    const router = inject(Router);
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'start the pick; confirm the shipment', run: () => this.mainAct() },
      { key: 'A', does: 'choose all that are due or have missed their day', run: () => this.markDue() },
      { key: 'R', does: 'promise what is chosen and missed its day for the first day it can leave', run: () => this.promiseMissed() },
      { key: 'Ctrl+B', does: 'start the picks that are chosen', run: () => this.startMarked() },
      { key: 'P', does: 'pick on a telephone', run: () => void router.navigate(['/pick'], { queryParams: { warehouse: this.warehouse() ?? null } }) },
    ]);
  }

  protected readonly stages = STAGES;
  private readonly session = inject(Session);
  protected readonly mayMend = this.session.inOffice;
  protected readonly maySell = this.session.maySell;
  protected readonly said = signal('');
  protected readonly mendOf = mendOf;
  protected readonly whyOf = notGoingWords;
  /** Orders that are chosen, by their key. */
  protected readonly marked = signal<ReadonlySet<string>>(new Set());
  protected readonly notGoing = computed((): readonly NotGoingRow[] => this.board().notGoing);

  /** `1 h 20 min` of work. */
  protected hours(minutes: number): string {
    const hours = Math.floor(minutes / 60);
    return [hours > 0 ? `${hours} h` : '', minutes % 60 > 0 || hours === 0 ? `${minutes % 60} min` : ''].filter(Boolean).join(' ');
  }

  protected stopsOf(order: ReadyOrder): string {
    return order.stops.map((stop) => STOPS[stop]).join(', ');
  }

  protected mark(order: ReadyOrder): void {
    const key = this.keyOf(order);
    this.marked.update((keys) => new Set(keys.has(key) ? [...keys].filter((other) => other !== key) : [...keys, key]));
  }

  protected markDue(): void {
    this.marked.set(
      new Set(
        this.ready()
          .filter((order) => order.due || order.missed !== null)
          .map((order) => this.keyOf(order)),
      ),
    );
  }

  /** Starts the picks of all that are chosen; those that cannot be stay chosen, with why. */
  protected startMarked(): boolean {
    const chosen = this.ready().filter((order) => this.marked().has(this.keyOf(order)));
    if (chosen.length === 0) return false;
    const picks = chosen.map(({ order, warehouse, lines }) => ({ order, warehouse, lines: lines.map(({ line, quantity }) => ({ line, quantity })) }));
    this.run(this.api.call(shippingRoutes.startPicks, { body: { picks } }), ({ refused }) => {
      this.marked.set(new Set(chosen.filter((row) => refused.some(({ order }) => order === row.order)).map((row) => this.keyOf(row))));
      this.fault.set(refused.map((row) => row.why).join(' '));
    });
    return true;
  }

  /** Of those that are chosen: what can no longer leave on its day. */
  protected readonly missed = computed(() => this.ready().filter((order) => order.missed !== null && this.marked().has(this.keyOf(order))));

  protected promiseMissed(): boolean {
    const orders = [...new Set(this.missed().map((row) => row.order))];
    if (orders.length === 0 || !this.maySell()) return false;
    this.run(this.api.call(shippingRoutes.promiseMissed, { body: { orders } }), ({ moved }) => {
      this.marked.set(new Set());
      this.said.set(
        `${moved.length === 1 ? '1 line is' : `${moved.length} lines are`} promised again for ${shortDay(moved[0]!.day, this.session.today())}. Whoever was told another day stands under Calls.`,
      );
    });
    return true;
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

  private run<T>(command: Observable<T>, done: (answer: T) => void) {
    if (this.busy()) return;
    this.busy.set(true);
    this.fault.set('');
    this.said.set('');
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
