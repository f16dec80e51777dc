import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked, viewChild } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { Router, RouterLink } from '@angular/router';
import { pickRoutes, type PartView, type WalkView } from '@nockwright/contract/shipping';
import type { ReplyOf } from '@nockwright/contract/shape';
import { catchError, EMPTY, filter, switchMap, type Observable } from 'rxjs';
import { Session } from '../../access';
import { Api } from '../../api';
import { Live } from '../../live';
import { addressWords, AmountPipe, DayPipe, Keys, ListChoice, QuantityField, ScanInput, UnitPipe, type Choice, focusOnce } from '../../paper';
import { Places } from '../../supply';
import { Sounds } from '../sounds';
import { PickQueue } from './pick-queue';
import { readAtBin } from './read-label';

type Stop = WalkView['parts'][number];
type Why = 'missing' | 'damaged' | 'wrong_bin' | 'no_lot';

const NO_WALK: WalkView = { warehouse: '', parts: [] };

/** Picking on a telephone: one stop after the other in the sequence of the bins, by scan or by hand. It goes on where there is no network. */
@Component({
  selector: 'nock-pick-walk',
  imports: [RouterLink, MatButton, MatFormField, MatInput, AmountPipe, DayPipe, UnitPipe, ListChoice, QuantityField, ScanInput],
  templateUrl: './pick-walk.html',
  styleUrl: './pick-walk.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PickWalk {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly router = inject(Router);
  private readonly sounds = inject(Sounds);
  protected readonly queue = inject(PickQueue);
  private readonly field = viewChild(ScanInput);
  protected readonly go = addressWords();
  readonly warehouse = input<string>();
  /** Ids of shipments with commas between; all that are being picked where absent. */
  readonly shipments = input<string>();
  private readonly warehouses = inject(Places).warehouses;
  protected readonly places = computed((): readonly Choice[] => this.warehouses().map((row) => [row.code, row.name] as const));
  private readonly at = computed(() => this.warehouse() ?? this.warehouses()[0]?.code ?? '');
  protected readonly chosenPlace = this.at;

  private readonly walk = signal<WalkView>(NO_WALK);
  protected readonly loaded = signal(false);
  protected readonly fault = signal('');
  /** What was done last, or what is wrong, in a live region. */
  protected readonly said = signal('');
  private readonly skipped = signal<ReadonlySet<number>>(new Set());
  /** Of which goods less is reported, and what was typed: an answer that comes late and shows another bin for a moment takes nothing of it. */
  private readonly report = signal<{ readonly part: number; readonly found: string } | null>(null);
  protected readonly isShort = computed(() => this.report() !== null && this.report()!.part === this.nextId());
  protected readonly found = computed(() => (this.isShort() ? this.report()!.found : ''));
  protected readonly quantity = signal('');
  protected readonly atBin = signal(false);
  protected readonly busy = signal(false);
  protected readonly sources = signal<ReplyOf<typeof pickRoutes.readSources>>([]);

  protected readonly stops = computed(() => this.walk().parts);
  protected readonly open = computed(() => this.stops().filter((stop) => this.pickedOf(stop.part) !== stop.part.quantity));
  protected readonly done = computed(() => this.stops().length - this.open().length);
  /** Only another bin begins anew: what others do meanwhile leaves what was typed. */
  private readonly nextId = computed(() => this.next()?.part.id);
  /** What was passed by comes again when all else is done. */
  protected readonly next = computed((): Stop | undefined => this.open().find((stop) => !this.skipped().has(stop.part.id)) ?? this.open()[0]);
  protected readonly after = computed(() => this.open().filter((stop) => stop !== this.next()));
  protected readonly consignments = computed(() => [
    ...new Map(this.stops().map((stop) => [stop.consignment, { id: stop.consignment, customer: stop.customer, number: stop.shipmentNumber }])).values(),
  ]);

  constructor() {
    const live = inject(Live);
    toObservable(computed(() => ({ warehouse: this.at(), shipments: this.shipments() })))
      .pipe(
        filter(({ warehouse }) => warehouse !== ''),
        switchMap((query) =>
          live.kept(
            () => this.api.call(pickRoutes.readWalk, { query }).pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
            (topic) => topic.startsWith('consignment:') || topic.startsWith('shipment:'),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((walk) => {
        this.fault.set('');
        this.walk.set(walk);
        this.loaded.set(true);
      });
    // What was sent is known at once: it would be the next bin again until the walk is read anew.
    effect(() => {
      const view = this.queue.answered();
      if (!view) return;
      const picked = new Map(view.parts.map((part) => [part.id, part]));
      untracked(() => this.walk.update((walk) => ({ ...walk, parts: walk.parts.map((stop) => ({ ...stop, part: picked.get(stop.part.id) ?? stop.part })) })));
    });
    effect(() => {
      const id = this.nextId();
      untracked(() => id !== undefined && this.arrive());
    });
    focusOnce(this.field);
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'picked, go to the next bin', run: () => this.take(null) },
      { key: 'X', does: 'report short', run: () => this.turnShort() },
      { key: 'Ctrl+ArrowDown', does: 'pass by, come back later', run: () => this.pass() },
      { key: 'Escape', does: 'back to shipping', run: () => void this.router.navigate(['/shipping'], { queryParams: { warehouse: this.at() } }) },
    ]);
  }

  protected pickedOf(part: PartView): string {
    return this.queue.pickedOf(part.id) ?? part.picked;
  }

  private arrive(): void {
    const part = this.next()!.part;
    this.atBin.set(false);
    this.sources.set([]);
    this.quantity.set(part.quantity);
    this.field()?.clear();
  }

  protected scan(text: string): void {
    const stop = this.next();
    if (!stop) return;
    const read = readAtBin(text, stop.part, this.session.today());
    if (read.is === 'wrong') {
      this.sounds.wrong();
      this.field()?.refuse(read.words);
      return;
    }
    this.sounds.right();
    this.field()?.clear();
    if (read.is === 'bin') return this.atBin.set(true);
    this.take(text);
  }

  /** So much as stands in the field is in the tote. */
  protected take(scan: string | null): void {
    const stop = this.next();
    if (!stop) return;
    const quantity = this.quantity() || stop.part.quantity;
    this.queue.refused.set('');
    this.queue.add(stop.part.id, quantity, scan);
    this.said.set(`${quantity} ${stop.part.item} picked.`);
    this.field()?.focus();
  }

  /** Into which tote the shipment of this stop goes. */
  protected setTote(tote: string): void {
    const stop = this.next();
    if (!stop || tote.trim() === stop.tote) return;
    this.do(
      this.api.call(pickRoutes.setTote, { params: { shipment: stop.part.shipment }, body: { tote: tote.trim() } }),
      () => `${stop.shipmentNumber} goes into tote ${tote.trim()}.`,
    );
  }

  /** Other bins that have it, to be chosen by hand. */
  protected findSources(): void {
    const stop = this.next();
    if (!stop) return;
    this.api.call(pickRoutes.readSources, { params: { part: stop.part.id } }).subscribe({
      next: (sources) => {
        this.sources.set(sources);
        if (sources.length === 0) this.said.set('No other bin has any free.');
      },
      error: (error: Error) => this.said.set(error.message),
    });
  }

  protected takeFrom(place: number): void {
    const stop = this.next();
    if (!stop) return;
    this.do(this.api.call(pickRoutes.chooseSource, { params: { part: stop.part.id }, body: { place } }), () => `${stop.part.item} is picked from another bin.`);
  }

  private do<T>(act: Observable<T>, words: (answer: T) => string): void {
    if (this.busy()) return;
    this.busy.set(true);
    act.subscribe({
      next: (answer) => {
        this.busy.set(false);
        this.report.set(null);
        this.sources.set([]);
        this.said.set(words(answer));
      },
      error: (error: Error) => {
        this.busy.set(false);
        this.sounds.wrong();
        this.said.set(error.message);
      },
    });
  }

  protected pass(): void {
    const stop = this.next();
    if (!stop) return;
    this.skipped.update((ids) => new Set([...ids, stop.part.id]));
  }

  protected turnShort(): void {
    const part = this.nextId();
    this.report.set(this.isShort() || part === undefined ? null : { part, found: '' });
  }

  protected typeFound(found: string): void {
    this.report.update((report) => report && { ...report, found });
  }

  protected short(why: Why): void {
    const stop = this.next();
    if (!stop) return;
    this.do(this.api.call(pickRoutes.reportShort, { params: { part: stop.part.id }, body: { found: this.found() || '0', why } }), ({ words }) => words);
  }
}
