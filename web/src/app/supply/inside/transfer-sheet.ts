import { ChangeDetectionStrategy, Component, computed, effect, inject, input, numberAttribute, signal, untracked } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { Router, RouterLink } from '@angular/router';
import type { Decision } from '@nockwright/contract/promise';
import { supplyRoutes, type TransferView } from '@nockwright/contract/supply';
import { compareDecimal, minus } from '@nockwright/core/money';
import { Session } from '../../access';
import { Api } from '../../api';
import { AmountPipe, DayPipe, History, isQuantity, Keys, QuantityField, Sheet, TextArea, UnitPipe } from '../../paper';
import { decisionOf, linesHurt, Preview } from '../../ripple';
import { ReceiptEffect, sameCame, type Came } from '../receipt-effect';
import { DocumentStore } from './document-store';
import { TransferChange } from './transfer-change';

type TransferLine = TransferView['lines'][number];

/** What is typed of a line that comes in. */
interface Typed {
  readonly quantity?: string;
  readonly damaged?: string;
  readonly bin?: string;
  readonly serials?: string;
}

/** Goods on their way from one warehouse to another: set aside, sent, taken in, each line with the order it is for. */
@Component({
  selector: 'nock-transfer-sheet',
  imports: [
    RouterLink,
    MatButton,
    MatFormField,
    MatInput,
    AmountPipe,
    DayPipe,
    History,
    UnitPipe,
    QuantityField,
    Sheet,
    TextArea,
    ReceiptEffect,
    TransferChange,
  ],
  providers: [DocumentStore],
  templateUrl: './transfer-sheet.html',
  styleUrl: './transfer-sheet.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TransferSheet {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly store = inject<DocumentStore<TransferView>>(DocumentStore);
  protected readonly maySell = inject(Session).maySell;
  readonly id = input.required({ transform: numberAttribute });

  protected readonly states = { open: 'not shipped', shipped: 'inbound', closed: 'received', cancelled: 'cancelled' } as const;
  protected readonly typed = signal<ReadonlyMap<number, Typed>>(new Map());
  /** What is being changed of it: its day and quantities, or that it goes at all. */
  private readonly wanted = signal<'change' | 'end' | null>(null);
  protected readonly changing = computed(() => (this.mayChange() ? this.wanted() : null));
  protected readonly mayChange = computed(() => this.maySell() && ['open', 'shipped'].includes(this.store.document()?.state ?? ''));
  protected readonly taking = computed(() => this.store.document()?.state === 'shipped' && this.changing() === null);
  protected readonly came = computed<readonly Came[]>(
    () =>
      (this.store.document()?.lines ?? []).flatMap((line) => {
        const [quantity, damaged] = [this.soundOf(line), this.unfitOf(line)];
        if (!isQuantity(quantity) || !isQuantity(damaged) || !this.more(line.open)) return [];
        return [{ line: line.id, item: line.item, quantity, open: line.open, ...(this.more(damaged) ? { damaged } : {}) }];
      }),
    { equal: sameCame },
  );
  protected readonly closeRest = signal(false);
  protected readonly accepted = signal<readonly number[]>([]);
  /** What came is not what was sent, and who works here may decide what follows from it. */
  protected readonly differs = computed(() => this.maySell() && this.came().some(({ quantity, open }) => compareDecimal(quantity, open) !== 0));
  private readonly wish = computed(() =>
    this.differs() && this.taking() ? { transfer: this.store.document(), lines: this.came(), closeRest: this.closeRest(), accepted: this.accepted() } : null,
  );
  protected readonly preview = new Preview(this.wish, ({ lines, closeRest, accepted }) =>
    this.api.call(supplyRoutes.previewTransferReceipt, {
      params: { transfer: this.id() },
      query: {
        lines: lines.map(({ line, quantity, damaged }) => `${line}:${quantity}${damaged ? `:${damaged}` : ''}`).join(','),
        closeRest,
        accept: accepted.join(','),
      },
    }),
  );
  /** Lines that what came leaves without their goods, as the board is asked for them. */
  protected readonly hurts = computed(() => linesHurt(this.preview.shown()));

  constructor() {
    effect(() => {
      const id = this.id();
      untracked(() => {
        this.change(null);
        this.closeRest.set(false);
      });
      this.store.open(
        `transfer:${id}`,
        () => this.api.call(supplyRoutes.readTransfer, { params: { transfer: id } }),
        () => this.api.call(supplyRoutes.transferHistory, { params: { transfer: id } }),
      );
    });
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'confirm that it left; receive goods', run: () => this.act() },
      { key: 'Ctrl+B', does: 'receive goods, and route the shortages', run: () => this.rescue() },
      { key: 'D', does: 'another day for it, or less of it', run: () => this.mayChange() && this.change('change') },
      { key: 'K', does: 'cancel the transfer', run: () => this.mayChange() && this.store.document()?.state === 'open' && this.change('end') },
    ]);
  }

  protected left(line: TransferLine): string {
    return minus(line.quantity, line.cancelled);
  }

  protected more(quantity: string): boolean {
    return compareDecimal(quantity, '0') > 0;
  }

  /** What is fit to be sold: all that is on its way but what is damaged, unless it is typed. */
  protected soundOf(line: TransferLine): string {
    const { quantity } = this.typed().get(line.id) ?? {};
    if (quantity !== undefined) return quantity;
    const damaged = this.unfitOf(line);
    const sound = isQuantity(damaged) ? minus(line.open, damaged) : line.open;
    return compareDecimal(sound, '0') < 0 ? '0' : sound;
  }

  private unfitOf(line: TransferLine): string {
    return this.typed().get(line.id)?.damaged || '0';
  }

  protected lostWords({ lost, damaged }: TransferLine): string {
    const missing = minus(lost, damaged);
    return `${this.more(damaged) ? `, ${damaged} damaged` : ''}${this.more(missing) ? `, ${missing} lost` : ''}`;
  }

  protected forWords({ for: order }: TransferLine): string {
    return order ? `${order.number}/${order.lineNo} ${order.customer}` : 'anyone';
  }

  protected type(line: TransferLine, typed: Typed): void {
    this.typed.update((all) => new Map(all).set(line.id, { ...all.get(line.id), ...typed }));
  }

  protected change(kind: 'change' | 'end' | null): boolean {
    this.typed.set(new Map());
    this.store.fault.set('');
    this.wanted.set(kind);
    return true;
  }

  private act(): void {
    const state = this.store.document()?.state;
    if (this.changing() !== null) return;
    if (state === 'open') this.ship();
    else if (state === 'shipped') this.receive();
  }

  protected ship(): void {
    this.store.run(({ id, version }) => this.api.call(supplyRoutes.shipTransfer, { params: { transfer: id }, body: { version } }));
  }

  protected receive(): void {
    if (!this.isRead()) return;
    if (!this.differs()) this.takeIn({});
    else this.preview.once(({ ripple }) => this.takeIn({ closeRest: this.closeRest(), decision: decisionOf(ripple, this.accepted()) }));
  }

  /** What came is taken in and promises stand as told; whom that hurts is looked at line by line on the board. */
  protected rescue(): boolean {
    if (this.hurts() === '') return false;
    if (!this.isRead()) return true;
    this.preview.onceHurt((lines) => this.takeIn({ closeRest: this.closeRest() }, () => void this.router.navigate(['/shortages'], { queryParams: { lines } })));
    return true;
  }

  /** Whether what was typed can be read; says what of it cannot. */
  private isRead(): boolean {
    const wrong = (this.store.document()?.lines ?? []).find((line) => !isQuantity(this.soundOf(line)) || !isQuantity(this.unfitOf(line)));
    this.store.fault.set(wrong ? `${wrong.item}: expected a quantity.` : '');
    return !wrong;
  }

  private takeIn(how: { readonly closeRest?: boolean; readonly decision?: Decision }, then?: () => void): void {
    const came = this.came().filter(({ quantity, damaged }) => how.closeRest || this.more(quantity) || damaged !== undefined);
    if (came.length === 0) return this.store.fault.set('Nothing has come in by this: type what came, or tick that close the remainder.');
    const lines = came.map(({ line, quantity, damaged }) => {
      const { bin, serials } = this.typed().get(line) ?? {};
      return { line, quantity, ...(damaged ? { damaged } : {}), ...(bin ? { bin } : {}), ...(serials?.trim() ? { serials: serials.trim() } : {}) };
    });
    this.store.run(
      ({ id, version }) => this.api.call(supplyRoutes.receiveTransfer, { params: { transfer: id }, body: { version, lines, ...how } }),
      () => {
        this.typed.set(new Map());
        this.closeRest.set(false);
        this.accepted.set([]);
        then?.();
      },
    );
  }
}
