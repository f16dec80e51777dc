import { ChangeDetectionStrategy, Component, computed, effect, inject, input, numberAttribute, signal, untracked, viewChild } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import type { PurchaseView, Scanned } from '@nockwright/contract/supply';
import { Session } from '../../access';
import { amountInWords, AmountPipe, DayPipe, Keys, UnitPipe } from '../../paper';
import { decisionOf, linesHurt, Preview } from '../../ripple';
import { PurchaseStore } from '../purchase-store';
import { ReceiptEffect, sameCame, type Came } from '../receipt-effect';
import { ArrivalRow } from './arrival-row';
import { Arrivals } from './arrivals';
import { ScanField } from './scan-field';

type Line = PurchaseView['lines'][number];
type Notice = PurchaseView['notices'][number];

/** Takes in what has come of a purchase, by scan or by hand, on a phone at the dock; says at once whom it is owed to. */
@Component({
  selector: 'nock-receiving-sheet',
  imports: [RouterLink, MatButton, AmountPipe, DayPipe, UnitPipe, ArrivalRow, ReceiptEffect, ScanField],
  providers: [PurchaseStore],
  templateUrl: './receiving-sheet.html',
  styleUrl: './receiving-sheet.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReceivingSheet {
  protected readonly store = inject(PurchaseStore);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  private readonly field = viewChild(ScanField);
  readonly id = input.required({ transform: numberAttribute });
  /** A line that was scanned in the list before. */
  readonly line = input(undefined, { transform: (value: unknown) => (value === undefined ? undefined : Number(value)) });
  readonly lot = input<string>();
  readonly expires = input<string>();
  readonly count = input<string>();
  readonly serial = input<string>();

  protected readonly awaited = computed(() => (this.store.purchase()?.lines ?? []).filter((line) => line.open !== '0'));
  protected readonly open = computed(() => this.awaited().length > 0 && this.store.purchase()?.state !== 'draft');
  protected readonly due = computed(() => this.awaited()[0]?.expectedDay ?? null);
  protected readonly arrivals = new Arrivals(this.awaited, () => this.session.today());
  protected readonly closeRest = signal(false);
  /** The supplier's notice that is being taken in. */
  private readonly notice = signal<number | null>(null);
  protected readonly accepted = signal<readonly number[]>([]);
  /** What came, beside what was awaited. */
  protected readonly came = computed<readonly Came[]>(
    () =>
      this.arrivals.sums().flatMap(({ line, quantity }) => {
        const row = this.awaited().find((other) => other.id === line);
        return row ? [{ line, quantity, item: row.item, open: row.open }] : [];
      }),
    { equal: sameCame },
  );
  /** What came is not what was awaited, and who works here may decide what follows from it. */
  protected readonly differs = computed(() => this.session.maySell() && this.came().some(({ quantity, open }) => Number(quantity) !== Number(open)));
  private readonly wish = computed(() =>
    this.differs() ? { purchase: this.store.purchase(), lines: this.came(), closeRest: this.closeRest(), accepted: this.accepted() } : null,
  );
  protected readonly preview = new Preview(this.wish, ({ lines, closeRest, accepted }) => this.store.previewReceipt(lines, closeRest, accepted));
  /** Lines whose promises are not kept by what came. */
  protected readonly hurts = computed(() => linesHurt(this.preview.shown()));

  constructor() {
    effect(() => {
      const id = this.id();
      untracked(() => {
        this.arrivals.clear();
        this.store.open(id);
      });
    });
    let begun = false;
    effect(() => {
      const line = this.awaited().find((row) => row.id === this.line());
      if (begun || this.awaited().length === 0) return;
      begun = true;
      untracked(() => {
        if (line) this.take(line, { lot: this.lot() ?? '', expires: this.expires() ?? null, count: this.count() ?? null, serial: this.serial() ?? '' });
        else setTimeout(() => this.field()?.focus());
      });
    });
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'receive goods', run: () => this.book() },
      { key: 'Ctrl+B', does: 'receive goods, and route the shortages', run: () => this.rescue() },
      { key: 'A', does: 'all received as expected', run: () => this.all() },
      { key: 'N', does: 'all received as the supplier announced', run: () => this.asAnnounced() },
      // A field is left first: nothing that was typed is lost by the key.
      { key: 'Escape', does: 'back to receiving', run: () => (document.activeElement instanceof HTMLInputElement ? false : this.leave()) },
    ]);
  }

  /** `984 of these are needed for orders of 2 customers: keep them at the dock`. */
  protected owedOf(line: Line): string {
    const total = line.owed.reduce((sum, row) => sum + Number(row.quantity), 0);
    const customers = new Set(line.owed.map((row) => row.customer));
    if (total === 0) return '';
    const who = customers.size === 1 ? [...customers][0]! : `${customers.size} customers`;
    return `${amountInWords(String(total))} of these ${total === 1 ? 'is' : 'are'} needed for orders of ${who}: keep ${total === 1 ? 'it' : 'them'} at the dock.`;
  }

  protected scan(scan: Scanned): void {
    const line = this.awaited().find((row) => row.item === scan.item);
    if (line) return this.take(line, scan);
    const other = scan.awaited.find((row) => row.id !== this.id());
    this.field()?.refuse(
      `${scan.item ?? 'That'} is not expected on ${this.store.purchase()?.number}${other ? `: it is on ${other.number} from ${other.from}` : ''}.`,
    );
  }

  /** `240 JAR-340-HX, 96 LID-063-GD`. */
  protected announced(notice: Notice): string {
    const items = new Map((this.store.purchase()?.lines ?? []).map((line) => [line.id, line.item]));
    return notice.lines.map((line) => `${amountInWords(line.quantity)} ${items.get(line.line) ?? ''}`).join(', ');
  }

  /** What the supplier announced is taken to have come, lots and all; what differs is typed over it. */
  protected asAnnounced(notice = this.store.purchase()?.notices[0]): boolean {
    if (!notice || !this.open()) return false;
    this.arrivals.clear();
    for (const announced of notice.lines) {
      const line = this.awaited().find((row) => row.id === announced.line);
      if (!line) continue;
      this.arrivals.add(line, {
        quantity: announced.quantity,
        lot: line.tracksLots ? announced.lot : '',
        expires: line.tracksExpiry ? (announced.expires ?? '') : '',
      });
    }
    this.notice.set(notice.id);
    return true;
  }

  protected all(): void {
    for (const line of this.awaited()) if (this.arrivals.of(line.id).length === 0) this.arrivals.add(line);
    this.focusOn(
      this.arrivals.all().find((row) => this.awaited().some((line) => line.id === row.line && line.tracksLots && row.lot === ''))?.key ?? null,
      'lot',
    );
  }

  protected book(): void {
    if (!this.differs()) return this.receive({});
    // Whether more is awaited is decided with whom that moves in view.
    if (this.isRead()) this.preview.once(({ ripple }) => this.receive({ closeRest: this.closeRest(), decision: decisionOf(ripple, this.accepted()) }));
  }

  /** What came is booked and promises stand as told; whom that hurts is looked at line by line on the board. */
  protected rescue(): boolean {
    if (this.hurts() === '') return false;
    if (!this.isRead()) return true;
    this.preview.onceHurt((lines) =>
      this.receive({ closeRest: this.closeRest() }, () => void this.router.navigate(['/shortages'], { queryParams: { lines } })),
    );
    return true;
  }

  /** Whether what was typed can be read; says what of it cannot. */
  private isRead(): boolean {
    const read = this.arrivals.read();
    this.store.fault.set('fault' in read ? read.fault : '');
    return !('fault' in read);
  }

  private receive(how: Parameters<PurchaseStore['receive']>[1], then: () => void = () => scrollTo({ top: 0 })): void {
    const read = this.arrivals.read();
    if ('fault' in read) return this.store.fault.set(read.fault);
    const notice = this.notice();
    this.store.receive(read.arrivals, { ...(notice === null ? {} : { notice }), ...how }, () => {
      this.arrivals.clear();
      this.closeRest.set(false);
      this.notice.set(null);
      this.accepted.set([]);
      then();
    });
  }

  protected leave(): void {
    void this.router.navigate(['/receiving'], { queryParams: { warehouse: this.store.purchase()?.warehouse } });
  }

  private take(line: Line, scan: Pick<Scanned, 'lot' | 'expires' | 'count' | 'serial'>): void {
    const row = this.arrivals.scan(line, scan as Scanned);
    // What the label did not say is asked for; where it said all, the next label is scanned.
    if (line.tracksLots && row.lot === '') this.focusOn(row.key, 'lot');
    else if (line.tracksExpiry && row.expires === '') this.focusOn(row.key, 'expires');
    else if (scan.count || scan.serial) this.field()?.focus();
    else this.focusOn(row.key, 'came');
  }

  private focusOn(key: number | null, field: string): void {
    if (key === null) return;
    setTimeout(() => {
      const element = document.getElementById(`${field}-${key}`);
      if (element instanceof HTMLInputElement) {
        element.focus();
        element.select();
      }
    });
  }
}
