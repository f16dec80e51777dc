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
  template: `
    @if (store.purchase(); as purchase) {
      <nock-sheet>
        <ng-container sheet>
          <h1>
            <span class="code">{{ purchase.number }}&nbsp;</span
            ><a [routerLink]="['/supply/suppliers', purchase.supplier.code]">{{ purchase.supplier.name }}</a>
            <span class="quiet state">{{ purchase.state }}</span>
          </h1>
          <dl>
            <div>
              <dt>Goes to</dt>
              <dd>{{ purchase.shipTo }}</dd>
            </div>
            @if (purchase.order; as order) {
              <div>
                <dt>{{ purchase.kind === 'drop_ship' ? 'Ships for' : 'Bought for' }}</dt>
                <dd>
                  <a [routerLink]="['/orders', order.id]">order {{ order.number }}</a>
                </dd>
              </div>
            }
            <div>
              <dt>Made</dt>
              <dd>{{ purchase.createdDay | day }}</dd>
            </div>
            <div>
              <dt>Value</dt>
              <dd class="figure">{{ purchase.value | price }}</dd>
            </div>
          </dl>
          @if (drafting()) {
            <nock-draft-form [purchase]="purchase" (closed)="drafting.set(false)" />
          } @else {
            <div class="scroll">
              <table class="ruled" aria-label="Lines of the purchase order">
                <thead>
                  <tr>
                    <th></th>
                    <th>Item</th>
                    <th class="figure wide">Ordered</th>
                    <th class="figure wide">{{ drop() ? 'Left' : 'Received' }}</th>
                    <th class="figure">Awaited</th>
                    <th>Due</th>
                    <th class="wide">{{ drop() ? '' : 'Can leave again' }}</th>
                    <th class="figure wide">Cost</th>
                    @if (taking()) {
                      <th class="figure">Left now</th>
                    }
                  </tr>
                </thead>
                <tbody>
                  @for (line of purchase.lines; track line.id) {
                    <tr
                      [tabindex]="0"
                      [class.marked]="line.id === (changing() === null ? selected() : marked())"
                      (focus)="selected.set(line.id)"
                      (click)="selected.set(line.id)"
                      (keydown)="key($event, line)"
                    >
                      <td class="quiet">{{ line.lineNo }}</td>
                      <td>
                        <a class="code" [routerLink]="['/items', line.item]" tabindex="-1">{{ line.item }}</a>
                        <div class="small quiet">{{ line.lifts ? 'to stock: meets their minimum and lot' : line.description }}</div>
                      </td>
                      <td class="figure wide">{{ line.quantity | amount }}</td>
                      <td class="figure wide">{{ line.received | amount }}</td>
                      <td class="figure">
                        {{ line.open | amount }}
                        @if (line.closed !== '0') {
                          <div class="small quiet">{{ line.closed | amount }} closed</div>
                        }
                        @if (line.damaged !== '0') {
                          <div class="small quiet">{{ line.damaged | amount }} came damaged</div>
                        }
                      </td>
                      <td>
                        {{ line.expectedDay | day }}
                        @if (line.overdue) {
                          <b class="late">overdue</b>
                        }
                        @if (line.open !== '0' && line.toldDay && line.toldDay !== line.expectedDay) {
                          <div class="small late">the customer was told {{ line.toldDay | day }}</div>
                        }
                      </td>
                      <td class="wide">{{ drop() ? '' : (line.availableDay | day) }}</td>
                      <td class="figure wide">{{ line.cost | price }}</td>
                      @if (taking()) {
                        <td class="figure">
                          @if (line.open !== '0') {
                            <nock-quantity-field
                              class="take"
                              [label]="'Quantity of ' + line.item"
                              [quantity]="came()[line.id] ?? ''"
                              (typed)="take(line.id, $event)"
                            />
                          }
                        </td>
                      }
                    </tr>
                  }
                </tbody>
              </table>
            </div>
          }
          @if (taking()) {
            <label for="tracking">Tracking number of the supplier's shipment</label>
            <mat-form-field class="tracking"
              ><input matInput #number id="tracking" class="code" [value]="tracking()" (input)="tracking.set(number.value)" autocomplete="off"
            /></mat-form-field>
          }
        </ng-container>
        <ng-container gloss>
          @if (cancelling()) {
            <nock-cancel-purchase (closed)="wanted.set(null)" />
          } @else if (changing(); as kind) {
            <nock-line-change [line]="line()!" [kind]="kind" (closed)="wanted.set(null)" />
          } @else {
            <nock-supplier-talk [purchase]="purchase" />
            @if (line(); as line) {
              <h2>Line {{ line.lineNo }}: {{ line.item }}</h2>
              <p>
                {{ line.open | amount }} {{ line.unit | unit: line.open }} awaited, due {{ line.expectedDay | day
                }}{{ line.availableDay ? ', can leave again ' + (line.availableDay | day) : '' }}.
              </p>
              <h3>Owed from it</h3>
              @for (row of line.owed; track $index) {
                <p>
                  <b>{{ row.quantity | amount }}</b> to <a [routerLink]="['/orders', row.order]">{{ row.number }}/{{ row.lineNo }}</a> {{ row.customer }},
                  {{ row.day | day }}{{ row.bound ? ', bought for it' : '' }}
                  @if (line.availableDay && row.day < line.availableDay) {
                    <b class="late">at risk</b>
                  }
                </p>
              } @empty {
                <p class="quiet">Nothing is promised from it.</p>
              }
              @if (maySell() && line.open !== '0' && purchase.state !== 'draft') {
                <p class="small">
                  <a [routerLink]="['/items', line.item]" [queryParams]="{ ended: true }">{{ line.item }} is no longer made</a>: say what follows it.
                </p>
              }
            }
            @if (inOffice()) {
              <h3>What happened</h3>
              <nock-history [rows]="store.history()" />
            }
          }
        </ng-container>
        <ng-container acts>
          @if (drafting()) {
            <span class="quiet">The draft is being changed.</span>
          } @else if (cancelling() || changing() !== null) {
            <span class="quiet">It is being changed.</span>
          } @else if (purchase.state === 'draft' && maySell()) {
            <button mat-flat-button type="button" (click)="store.send()" [disabled]="store.busy()">Send to the supplier <kbd>Ctrl Enter</kbd></button>
            <button mat-button type="button" (click)="draft()">Change the draft <kbd>E</kbd></button>
          } @else if (open() && purchase.state !== 'draft') {
            @if (taking()) {
              <button mat-flat-button type="button" (click)="finish()" [disabled]="store.busy()">Confirm the notice <kbd>Ctrl Enter</kbd></button>
              <button mat-button type="button" (click)="taking.set(false)">Leave it <kbd>Esc</kbd></button>
            } @else {
              <button mat-flat-button type="button" (click)="start()">{{ drop() ? "Confirm the supplier's notice" : 'Receive' }} <kbd>Ctrl Enter</kbd></button>
            }
          }
          @if (open() && !taking() && !drafting() && !cancelling() && changing() === null && maySell()) {
            @if (purchase.state === 'sent') {
              <button mat-button type="button" (click)="confirmed()">They confirm it <kbd>O</kbd></button>
            }
            <button mat-button type="button" (click)="change('reschedule')">Other day, quantity, cost <kbd>D</kbd></button>
            <button mat-button type="button" (click)="change('close')">Nothing more comes <kbd>X</kbd></button>
            <button mat-button type="button" (click)="cancel()">Cancel it <kbd>K</kbd></button>
          }
          <p class="said" role="alert">{{ store.fault() }}</p>
        </ng-container>
      </nock-sheet>
    } @else {
      <p class="none quiet" role="status">{{ store.fault() || 'Fetching the purchase order …' }}</p>
    }
  `,
  styles: `
    .state {
      font-size: 13px;
      font-weight: 400;
      margin-left: 6px;
    }
    dl {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 28px;
      margin: 8px 0 14px;
    }
    dt,
    label {
      font-size: 12.5px;
      color: var(--ink-quiet);
    }
    dd {
      margin: 0;
      font-weight: 600;
      text-align: left;
    }
    .take {
      width: 84px;
    }
    label {
      display: block;
      margin-top: 14px;
    }
    .tracking {
      max-width: 300px;
    }
    .late {
      color: var(--late);
    }
    p {
      margin: 6px 0 0;
    }
    .scroll {
      overflow-x: auto;
    }
    .said {
      margin: 0 0 0 auto;
      color: var(--open);
      font-weight: 600;
      max-width: 560px;
      text-align: right;
    }
    .none {
      padding: 40px 20px;
    }
    @media (max-width: 820px) {
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
      { key: 'X', does: 'nothing more comes of the line', run: () => this.change('close') },
      { key: 'Escape', does: 'leave it', run: () => (this.taking() ? this.taking.set(false) : false) },
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
