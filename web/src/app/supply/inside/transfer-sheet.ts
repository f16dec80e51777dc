import { ChangeDetectionStrategy, Component, computed, effect, inject, input, numberAttribute, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { supplyRoutes, type TransferView } from '@nockwright/contract/supply';
import { compareDecimal, minus } from '@nockwright/core/money';
import { Session } from '../../access';
import { Api } from '../../api';
import { AmountPipe, DayPipe, History, Keys, LineForm, QuantityField, Sheet, UnitPipe } from '../../paper';
import { QUANTITY } from '../../ripple';
import { DocumentStore } from './document-store';

type TransferLine = TransferView['lines'][number];

/** Goods on their way from one warehouse to another: set aside, sent, taken in, each line with the order it is for. */
@Component({
  selector: 'nock-transfer-sheet',
  imports: [RouterLink, MatButton, AmountPipe, DayPipe, History, UnitPipe, LineForm, QuantityField, Sheet],
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
                <th class="figure">Quantity</th>
                <th class="figure">Sent</th>
                <th class="figure">Come in</th>
                <th>For</th>
                @if (transfer.state === 'shipped') {
                  <th class="figure">Comes in now</th>
                }
              </tr>
            </thead>
            <tbody>
              @for (line of transfer.lines; track line.id) {
                <tr>
                  <td>
                    <a class="code" [routerLink]="['/items', line.item]">{{ line.item }}</a>
                    <div class="small quiet">{{ line.description }}</div>
                  </td>
                  <td class="figure">
                    {{ left(line) | amount }} <span class="quiet small">{{ line.unit | unit: left(line) }}</span>
                  </td>
                  <td class="figure">{{ line.shipped | amount }}</td>
                  <td class="figure">{{ line.received | amount }}{{ more(line.lost) ? ', ' + line.lost + ' lost' : '' }}</td>
                  <td>
                    @if (line.for; as order) {
                      <a [routerLink]="['/orders', order.order]">{{ order.number }}/{{ order.lineNo }}</a> {{ order.customer }}
                    } @else {
                      anyone
                    }
                  </td>
                  @if (transfer.state === 'shipped') {
                    <td class="figure">
                      @if (more(line.open)) {
                        <nock-quantity-field [label]="'Quantity of ' + line.item" [quantity]="typed().get(line.id) ?? line.open" (typed)="type(line, $event)" />
                      }
                    </td>
                  }
                </tr>
              }
            </tbody>
          </table>
        </ng-container>
        <ng-container gloss>
          <h2>Transfer {{ transfer.number }}</h2>
          @switch (transfer.state) {
            @case ('open') {
              <p>The goods are set aside at {{ transfer.from.name }}: nobody else is promised them.</p>
              @if (maySell()) {
                <nock-line-form
                  fieldId="take-back"
                  label="Take it back: the goods stay there"
                  hint="why?"
                  act="Take back"
                  [busy]="store.busy()"
                  [(text)]="reason"
                  (said)="cancel($event)"
                />
              }
            }
            @case ('shipped') {
              <p>On its way. What comes in for an order is kept for it.</p>
              @if (missing().length > 0) {
                @for (words of missing(); track words) {
                  <p class="late">{{ words }}</p>
                }
                @if (maySell()) {
                  <button mat-button type="button" (click)="receive(true)">Nothing more comes: the rest is lost</button>
                }
              }
            }
            @default {
              <p>Nothing more is awaited of it.</p>
            }
          }
          <h3>What happened</h3>
          <nock-history [rows]="store.history()" />
        </ng-container>
        <ng-container acts>
          @if (transfer.state === 'open') {
            <button mat-flat-button type="button" [disabled]="store.busy()" (click)="ship()">It leaves <kbd>Ctrl Enter</kbd></button>
          } @else if (transfer.state === 'shipped') {
            <button mat-flat-button type="button" [disabled]="store.busy() || received().length === 0" (click)="receive(false)">
              Take in <kbd>Ctrl Enter</kbd>
            </button>
          }
          <a mat-button routerLink="/supply/inside">All transfers and assemblies</a>
          <span class="open" role="alert">{{ store.fault() }}</span>
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
    .late {
      color: var(--late);
    }
    nock-quantity-field {
      width: 90px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TransferSheet {
  private readonly api = inject(Api);
  protected readonly store = inject<DocumentStore<TransferView>>(DocumentStore);
  protected readonly maySell = inject(Session).maySell;
  readonly id = input.required({ transform: numberAttribute });

  protected readonly states = { open: 'set aside', shipped: 'on its way', closed: 'come in', cancelled: 'taken back' } as const;
  protected readonly typed = signal<ReadonlyMap<number, string>>(new Map());
  protected readonly reason = signal('');
  protected readonly received = computed(() =>
    (this.store.document()?.lines ?? []).flatMap((line) => {
      const quantity = this.typed().get(line.id) ?? line.open;
      return QUANTITY.test(quantity) && Number(quantity) > 0 && compareDecimal(line.open, '0') > 0 ? [{ line: line.id, quantity }] : [];
    }),
  );
  /** What would still be on its way, a sentence each. */
  protected readonly missing = computed(() =>
    (this.store.document()?.lines ?? []).flatMap((line) => {
      const quantity = this.received().find((row) => row.line === line.id)?.quantity ?? '0';
      const rest = minus(line.open, quantity);
      return compareDecimal(rest, '0') > 0 ? [`${line.item}: ${quantity} of ${line.open}, ${rest} still on the way`] : [];
    }),
  );

  constructor() {
    effect(() => {
      const id = this.id();
      this.store.open(
        `transfer:${id}`,
        () => this.api.call(supplyRoutes.readTransfer, { params: { transfer: id } }),
        () => this.api.call(supplyRoutes.transferHistory, { params: { transfer: id } }),
      );
    });
    inject(Keys).use([{ key: 'Ctrl+Enter', does: 'it leaves, or is taken in', run: () => this.act() }]);
  }

  protected left(line: TransferLine): string {
    return minus(line.quantity, line.cancelled);
  }

  protected more(quantity: string): boolean {
    return compareDecimal(quantity, '0') > 0;
  }

  protected type(line: TransferLine, quantity: string): void {
    this.typed.update((typed) => new Map(typed).set(line.id, quantity));
  }

  private act(): void {
    if (this.store.document()?.state === 'open') this.ship();
    else this.receive(false);
  }

  protected ship(): void {
    this.store.run(({ id, version }) => this.api.call(supplyRoutes.shipTransfer, { params: { transfer: id }, body: { version } }));
  }

  protected receive(closeRest: boolean): void {
    const lines = this.received();
    if (lines.length === 0) return;
    this.store.run(
      ({ id, version }) =>
        this.api.call(supplyRoutes.receiveTransfer, { params: { transfer: id }, body: { version, lines, ...(closeRest ? { closeRest } : {}) } }),
      () => this.typed.set(new Map()),
    );
  }

  protected cancel(reason: string): void {
    if (reason === '') return this.store.fault.set('Why? The history keeps it.');
    this.store.run(({ id, version }) => this.api.call(supplyRoutes.cancelTransfer, { params: { transfer: id }, body: { version, reason } }));
  }
}
