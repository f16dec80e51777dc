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
import { AmountPipe, DayPipe, History, Keys, QuantityField, Sheet, UnitPipe } from '../../paper';
import { decisionOf, linesHurt, Preview, QUANTITY } from '../../ripple';
import { ReceiptEffect, sameCame, type Came } from '../receipt-effect';
import { DocumentStore } from './document-store';
import { TransferChange } from './transfer-change';

type TransferLine = TransferView['lines'][number];

/** What is typed of a line that comes in. */
interface Typed {
  readonly quantity?: string;
  readonly damaged?: string;
  readonly bin?: string;
}

/** Goods on their way from one warehouse to another: set aside, sent, taken in, each line with the order it is for. */
@Component({
  selector: 'nock-transfer-sheet',
  imports: [RouterLink, MatButton, MatFormField, MatInput, AmountPipe, DayPipe, History, UnitPipe, QuantityField, Sheet, ReceiptEffect, TransferChange],
  providers: [DocumentStore],
  template: `
    @if (store.document(); as transfer) {
      <nock-sheet>
        <ng-container sheet>
          <h1>
            <span class="code">{{ transfer.number }}</span> {{ transfer.from.name }} to {{ transfer.to.name }}
            <span class="quiet">{{ states[transfer.state] }}</span>
          </h1>
          <p class="quiet">Leaves {{ transfer.shipDay | day }}, there {{ transfer.expectedDay | day }}.</p>
          <table class="ruled" aria-label="Lines of the transfer">
            <thead>
              <tr>
                <th>Item</th>
                <th class="figure wide">Quantity</th>
                <th class="figure wide">Sent</th>
                <th class="figure wide">Come in</th>
                <th class="wide">For</th>
                @if (taking()) {
                  <th class="figure">Comes in now</th>
                  <th class="figure">Damaged</th>
                  <th>Bin</th>
                }
              </tr>
            </thead>
            <tbody>
              @for (line of transfer.lines; track line.id) {
                <tr>
                  <td>
                    <a class="code" [routerLink]="['/items', line.item]">{{ line.item }}</a>
                    <div class="small quiet">{{ line.description }}</div>
                    <div class="small narrow">{{ left(line) | amount }} {{ line.unit | unit: left(line) }}, for {{ forWords(line) }}</div>
                  </td>
                  <td class="figure wide">
                    {{ left(line) | amount }} <span class="quiet small">{{ line.unit | unit: left(line) }}</span>
                  </td>
                  <td class="figure wide">{{ line.shipped | amount }}</td>
                  <td class="figure wide">{{ line.received | amount }}{{ lostWords(line) }}</td>
                  <td class="wide">
                    @if (line.for; as order) {
                      <a [routerLink]="['/orders', order.order]">{{ order.number }}/{{ order.lineNo }}</a> {{ order.customer }}
                    } @else {
                      anyone
                    }
                  </td>
                  @if (taking()) {
                    <td class="figure">
                      @if (more(line.open)) {
                        <nock-quantity-field [label]="'Comes in now: ' + line.item" [quantity]="soundOf(line)" (typed)="type(line, { quantity: $event })" />
                      }
                    </td>
                    <td class="figure">
                      @if (more(line.open)) {
                        <nock-quantity-field
                          [label]="'Damaged: ' + line.item"
                          [quantity]="typed().get(line.id)?.damaged ?? ''"
                          (typed)="type(line, { damaged: $event })"
                        />
                      }
                    </td>
                    <td>
                      @if (more(line.open)) {
                        <mat-form-field class="bin"
                          ><input
                            matInput
                            #bin
                            class="code"
                            maxlength="40"
                            autocomplete="off"
                            [attr.aria-label]="'Bin: ' + line.item"
                            [value]="typed().get(line.id)?.bin ?? ''"
                            (input)="type(line, { bin: bin.value.trim().toUpperCase() })"
                        /></mat-form-field>
                      }
                    </td>
                  }
                </tr>
              }
            </tbody>
          </table>
        </ng-container>
        <ng-container gloss>
          @if (changing(); as kind) {
            <nock-transfer-change [transfer]="transfer" [kind]="kind" (closed)="change(null)" />
          } @else {
            <h2>Transfer {{ transfer.number }}</h2>
            @switch (transfer.state) {
              @case ('open') {
                <p>The goods are set aside at {{ transfer.from.name }}: nobody else is promised them.</p>
              }
              @case ('shipped') {
                <p>On its way. What comes in for an order is kept for it.</p>
                @if (differs()) {
                  <nock-receipt-effect [lines]="came()" [preview]="preview" [(closeRest)]="closeRest" [(accepted)]="accepted" />
                  @if (hurts() !== '') {
                    <button mat-stroked-button type="button" class="rescue" (click)="rescue()" [disabled]="store.busy()">
                      Take it in and route what it hurts <kbd>Ctrl B</kbd>
                    </button>
                  }
                }
              }
              @default {
                <p>Nothing more is awaited of it.</p>
              }
            }
            <h3>What happened</h3>
            <nock-history [rows]="store.history()" />
          }
        </ng-container>
        <ng-container acts>
          @if (changing() !== null) {
            <span class="quiet">It is being changed.</span>
          } @else if (transfer.state === 'open') {
            <button mat-flat-button type="button" [disabled]="store.busy()" (click)="ship()">It leaves <kbd>Ctrl Enter</kbd></button>
          } @else if (transfer.state === 'shipped') {
            <button mat-flat-button type="button" [disabled]="store.busy()" (click)="receive()">Take in <kbd>Ctrl Enter</kbd></button>
          }
          @if (mayChange() && changing() === null) {
            <button mat-button type="button" (click)="change('change')">
              {{ transfer.state === 'open' ? 'Other day, or less' : 'Other day' }} <kbd>D</kbd>
            </button>
            @if (transfer.state === 'open') {
              <button mat-button type="button" (click)="change('end')">Take it back <kbd>K</kbd></button>
            }
          }
          <a mat-button routerLink="/supply/inside">All transfers and assemblies</a>
          <span class="open" role="alert">{{ store.fault() || preview.fault() }}</span>
        </ng-container>
      </nock-sheet>
    } @else {
      <p class="none quiet">{{ store.fault() || 'Fetching the transfer …' }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
      height: 100%;
    }
    .open {
      color: var(--open);
    }
    .rescue {
      margin-top: 12px;
    }
    nock-quantity-field,
    .bin {
      width: 76px;
    }
    .narrow {
      display: none;
    }
    @media (max-width: 820px) {
      .narrow {
        display: block;
      }
      .wide,
      kbd {
        display: none;
      }
      table.ruled td,
      table.ruled th {
        padding: 6px 4px;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TransferSheet {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly store = inject<DocumentStore<TransferView>>(DocumentStore);
  protected readonly maySell = inject(Session).maySell;
  readonly id = input.required({ transform: numberAttribute });

  protected readonly states = { open: 'set aside', shipped: 'on its way', closed: 'come in', cancelled: 'taken back' } as const;
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
        if (!QUANTITY.test(quantity) || !QUANTITY.test(damaged) || !this.more(line.open)) return [];
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
      { key: 'Ctrl+Enter', does: 'it leaves, or is taken in', run: () => this.act() },
      { key: 'Ctrl+B', does: 'take it in, and route whom it leaves without goods', run: () => this.rescue() },
      { key: 'D', does: 'another day for it, or less of it', run: () => this.mayChange() && this.change('change') },
      { key: 'K', does: 'take it back', run: () => this.mayChange() && this.store.document()?.state === 'open' && this.change('end') },
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
    const sound = QUANTITY.test(damaged) ? minus(line.open, damaged) : line.open;
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
    const wrong = (this.store.document()?.lines ?? []).find((line) => !QUANTITY.test(this.soundOf(line)) || !QUANTITY.test(this.unfitOf(line)));
    this.store.fault.set(wrong ? `${wrong.item}: expected a quantity.` : '');
    return !wrong;
  }

  private takeIn(how: { readonly closeRest?: boolean; readonly decision?: Decision }, then?: () => void): void {
    const came = this.came().filter(({ quantity, damaged }) => how.closeRest || this.more(quantity) || damaged !== undefined);
    if (came.length === 0) return this.store.fault.set('Nothing has come in by this: type what came, or tick that nothing more will come.');
    const lines = came.map(({ line, quantity, damaged }) => {
      const bin = this.typed().get(line)?.bin;
      return { line, quantity, ...(damaged ? { damaged } : {}), ...(bin ? { bin } : {}) };
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
