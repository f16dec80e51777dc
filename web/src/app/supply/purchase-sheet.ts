import { ChangeDetectionStrategy, Component, computed, effect, inject, input, numberAttribute, signal, untracked } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { Router, RouterLink } from '@angular/router';
import type { PurchaseView } from '@nockwright/contract/supply';
import { Session } from '../access';
import { AmountPipe, DayPipe, History, PricePipe, Keys, QuantityField, rowKey, Sheet, UnitPipe } from '../paper';
import { CancelPurchase } from './cancel-purchase';
import { DraftForm } from './draft-form';
import { SupplierTalk } from './exchange/supplier-talk';
import { LineChange } from './line-change';
import { PurchaseStore } from './purchase-store';

type Line = PurchaseView['lines'][number];

/** A purchase order: what is awaited and owed from it; send, receive, another day, close, confirm the supplier's notice. */
@Component({
  selector: 'nock-purchase-sheet',
  imports: [
    RouterLink,
    MatButton,
    MatFormField,
    MatInput,
    AmountPipe,
    DayPipe,
    PricePipe,
    QuantityField,
    UnitPipe,
    History,
    Sheet,
    CancelPurchase,
    DraftForm,
    LineChange,
    SupplierTalk,
  ],
  providers: [PurchaseStore],
  templateUrl: './purchase-sheet.html',
  styleUrl: './purchase-sheet.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PurchaseSheet {
  protected readonly store = inject(PurchaseStore);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  protected readonly maySell = this.session.maySell;
  protected readonly inOffice = this.session.inOffice;
  readonly id = input.required({ transform: numberAttribute });
  protected readonly selected = signal<number | null>(null);
  protected readonly drafting = signal(false);
  protected readonly wanted = signal<'cancel' | 'reschedule' | 'close' | null>(null);
  /** Only as long as there is something to cancel or to change. */
  protected readonly cancelling = computed(() => this.open() && this.wanted() === 'cancel');
  protected readonly changing = computed(() => {
    const wanted = this.wanted();
    return wanted === 'cancel' || this.line()?.open === '0' ? null : wanted;
  });
  /** Whether what came is being typed. */
  protected readonly taking = signal(false);
  protected readonly came = signal<Readonly<Record<number, string>>>({});
  protected readonly tracking = signal('');
  protected readonly drop = computed(() => this.store.purchase()?.kind === 'drop_ship');
  protected readonly open = computed(() => this.store.purchase()?.lines.some((line) => line.open !== '0') ?? false);
  protected readonly line = computed(() => {
    const lines = this.store.purchase()?.lines ?? [];
    return lines.find((line) => line.id === this.selected()) ?? lines[0] ?? null;
  });

  /** The line that is changed. */
  protected readonly marked = computed(() => this.line()?.id);

  constructor() {
    effect(() => {
      const id = this.id();
      untracked(() => {
        this.wanted.set(null);
        this.drafting.set(false);
        this.taking.set(false);
        this.selected.set(null);
        this.store.open(id);
      });
    });
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'send; receive; confirm the notice', run: () => this.mainAct() },
      { key: 'D', does: 'another day, quantity or cost for the line', run: () => this.change('reschedule') },
      { key: 'O', does: 'the supplier confirms it as it was ordered', run: () => this.confirmed() },
      { key: 'E', does: 'change the draft', run: () => this.draft() },
      { key: 'K', does: 'cancel what is open of the purchase order', run: () => this.cancel() },
      { key: 'X', does: 'close the remainder of the line', run: () => this.change('close') },
      { key: 'Escape', does: 'back', run: () => (this.taking() ? this.taking.set(false) : false) },
    ]);
  }

  protected key(event: KeyboardEvent, line: Line): void {
    rowKey(event, () => this.selected.set(line.id));
  }

  protected take(line: number, quantity: string): void {
    this.came.update((came) => ({ ...came, [line]: quantity.trim() }));
  }

  /** What comes to us is taken in at the dock; of what left for the customer, all that is awaited is offered as what left. */
  protected start(): void {
    if (!this.drop()) return void this.router.navigate(['/receiving', this.id()]);
    const lines = this.store.purchase()?.lines ?? [];
    this.came.set(Object.fromEntries(lines.filter((line) => line.open !== '0').map((line) => [line.id, line.open])));
    this.wanted.set(null);
    this.taking.set(true);
  }

  protected finish(): void {
    const lines = Object.entries(this.came()).flatMap(([line, quantity]) => (quantity === '' || quantity === '0' ? [] : [{ line: Number(line), quantity }]));
    if (lines.length === 0) return this.store.fault.set('Type how many left.');
    this.store.confirmDespatch(lines, this.tracking().trim(), () => this.taking.set(false));
  }

  protected change(kind: 'reschedule' | 'close'): boolean {
    const line = this.line();
    if (!line || line.open === '0' || !this.maySell()) return false;
    this.store.fault.set('');
    this.drafting.set(false);
    this.wanted.set(kind);
    return true;
  }

  protected confirmed(): boolean {
    if (this.store.purchase()?.state !== 'sent' || !this.maySell()) return false;
    this.store.acknowledge();
    return true;
  }

  /** A draft is changed as a whole; nobody has seen it yet. */
  protected draft(): boolean {
    if (this.store.purchase()?.state !== 'draft' || !this.maySell()) return false;
    this.store.fault.set('');
    this.wanted.set(null);
    this.drafting.set(true);
    return true;
  }

  protected cancel(): boolean {
    if (!this.open() || this.taking() || !this.maySell()) return false;
    this.store.fault.set('');
    this.drafting.set(false);
    this.wanted.set('cancel');
    return true;
  }

  private mainAct(): boolean {
    if (this.changing() !== null || this.cancelling() || this.drafting()) return false;
    if (this.store.purchase()?.state === 'draft') this.store.send();
    else if (!this.open()) return false;
    else if (this.taking()) this.finish();
    else this.start();
    return true;
  }
}
