import { Clipboard } from '@angular/cdk/clipboard';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, numberAttribute, signal, untracked } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatFormField } from '@angular/material/form-field';
import { MatInput } from '@angular/material/input';
import { MatOption, MatSelect } from '@angular/material/select';
import { MatSnackBar } from '@angular/material/snack-bar';
import { RouterLink } from '@angular/router';
import type { CustomerFound } from '@nockwright/contract/customers';
import type { ContractBuyer, ContractLineView } from '@nockwright/contract/pricing';
import { readContractLines, writeContractLines, type SheetLine } from '@nockwright/core/pricing';
import { unitName } from '@nockwright/core/units';
import { Session } from '../access';
import { AmountPipe, DayField, DayPipe, History, Keys, PricePipe, rowKey, Sheet } from '../paper';
import { BuyerField } from './buyer-field';
import { ContractStore } from './contract-store';
import { PastePanel } from './paste-panel';

/** A contract: who buys under it, what each line asks, what is used of it and what it did to margin. */
@Component({
  selector: 'nock-contract-sheet',
  imports: [
    RouterLink,
    MatButton,
    MatFormField,
    MatInput,
    MatOption,
    MatSelect,
    AmountPipe,
    BuyerField,
    DayField,
    DayPipe,
    History,
    PastePanel,
    PricePipe,
    Sheet,
  ],
  providers: [ContractStore],
  template: `
    @if (store.contract(); as contract) {
      <nock-sheet>
        <ng-container sheet>
          <h1>
            <span class="code">{{ contract.number }}</span> {{ contract.name }} <span class="quiet state">{{ states[contract.state] }}</span>
          </h1>
          <dl class="head">
            <div>
              <dt><label for="name">Name</label></dt>
              <dd>
                @if (mayWrite()) {
                  <mat-form-field class="name"
                    ><input matInput #name id="name" maxlength="200" autocomplete="off" [value]="contract.name" (change)="rename(name.value)"
                  /></mat-form-field>
                } @else {
                  {{ contract.name }}
                }
              </dd>
            </div>
            <div>
              <dt><label for="first">From</label></dt>
              <dd>
                @if (mayWrite()) {
                  <nock-day-field fieldId="first" [day]="contract.firstDay" (changed)="store.change({ firstDay: $event })" />
                } @else {
                  {{ contract.firstDay | day }}
                }
              </dd>
            </div>
            <div>
              <dt><label for="last">Until</label></dt>
              <dd>
                @if (mayWrite()) {
                  <nock-day-field fieldId="last" [day]="contract.lastDay" (changed)="store.change({ lastDay: $event })" />
                } @else {
                  {{ contract.lastDay | day }}
                }
              </dd>
            </div>
          </dl>
          <p class="buyers">
            <span class="quiet">For</span>
            @for (buyer of contract.buyers; track $index) {
              <span class="buyer">
                {{ buyer.name }}{{ buyer.shipTo && !mayChoose(buyer) ? ', ' + buyer.shipTo.name : '' }}
                @if (mayChoose(buyer)) {
                  <mat-form-field class="place">
                    <mat-select
                      canSelectNullableOptions
                      [aria-label]="'Address of ' + buyer.name"
                      [value]="buyer.shipTo?.id ?? null"
                      (selectionChange)="limit(buyer, $event.value)"
                    >
                      <mat-option [value]="null">every address</mat-option>
                      @for (place of buyer.places; track place.id) {
                        <mat-option [value]="place.id">{{ place.name }}</mat-option>
                      }
                    </mat-select>
                  </mat-form-field>
                }
                @if (mayWrite()) {
                  <button mat-button type="button" (click)="drop(buyer)" [attr.aria-label]="'Take ' + buyer.name + ' off the contract'">off</button>
                }
              </span>
            } @empty {
              <b>nobody yet</b>
            }
            @if (mayWrite()) {
              <nock-buyer-field (chosen)="add($event)" />
            }
          </p>
          <table class="ruled" aria-label="Lines of the contract">
            <thead>
              <tr>
                <th></th>
                <th>Item or group</th>
                <th>Terms</th>
                <th class="figure">Margin</th>
                <th class="figure">At least</th>
                <th class="figure">At most</th>
                <th class="figure">Used</th>
                <th>Overlaps</th>
              </tr>
            </thead>
            <tbody>
              @for (line of contract.lines; track line.id) {
                <tr
                  tabindex="0"
                  [class.marked]="line.id === selected()?.id"
                  (focus)="at.set(line.id)"
                  (click)="at.set(line.id)"
                  (keydown)="key($event, line)"
                  [attr.aria-selected]="line.id === selected()?.id"
                >
                  <td class="quiet">{{ line.lineNo }}</td>
                  <td>
                    <span class="code">{{ line.item ?? line.group }}</span>
                    <div class="small">{{ line.description }}</div>
                  </td>
                  <td>
                    @if (line.kind === 'fixed') {
                      <span class="figure">{{ line.price | price }}</span> {{ per(line) }}
                    } @else {
                      <span class="figure">{{ line.percent }} %</span> {{ line.kind === 'off_list' ? 'off list' : 'on cost' }}
                    }
                  </td>
                  <td class="figure">
                    {{ line.marginPercent === null ? '–' : line.marginPercent + ' %' }}
                    @for (low of line.lower; track low) {
                      <div class="small late">{{ low }}</div>
                    }
                  </td>
                  <td class="figure">{{ line.minimum === null ? '–' : (line.minimum | amount) }}</td>
                  <td class="figure">{{ line.most === null ? '–' : (line.most | amount) }}</td>
                  <td class="figure" [class.late]="share(line) >= 90">
                    {{ line.used | amount }}
                    @if (line.most !== null) {
                      <div class="small">{{ share(line) }} %</div>
                    }
                  </td>
                  <td class="small">{{ line.overlaps.length === 0 ? '' : line.overlaps.length === 1 ? 'one other' : line.overlaps.length + ' others' }}</td>
                </tr>
              } @empty {
                <tr>
                  <td colspan="8" class="quiet none">No lines yet. Paste them from a spreadsheet (V), or type them there.</td>
                </tr>
              }
            </tbody>
          </table>
          <p class="quiet small">Quantities are in stocking units.</p>
        </ng-container>
        <ng-container gloss>
          @if (pasting() !== null) {
            <nock-paste-panel
              title="Lines of the contract"
              columns="item, group, unit, price, off list %, cost plus %, minimum, most"
              [reader]="reader"
              [start]="pasting()!"
              [busy]="store.busy()"
              [fault]="store.fault()"
              (closed)="pasting.set(null)"
              (written)="write($event.rows, $event.all)"
            />
          } @else {
            @if (selected(); as line) {
              <h2>Line {{ line.lineNo }}: {{ line.item ?? line.group }}</h2>
              @if (line.listPrice !== null && line.unit) {
                <p>List price {{ line.listPrice | price }} {{ per(line) }}.</p>
              }
              @if (line.most !== null) {
                <p>{{ line.used | amount }} of {{ line.most | amount }} are bought. Released orders count; what is cancelled of them is given back.</p>
              }
              @if (line.overlaps.length > 0) {
                <h3>Overlaps</h3>
                @for (other of line.overlaps; track $index) {
                  <p>{{ other }}</p>
                }
                <p class="quiet small">Where several hold, the customer’s rule preselects one; the coordinator may choose another.</p>
              }
            }
            <h3>What it did to margin</h3>
            @if (contract.sold.marginPercent !== null) {
              <p>
                Sold for <b class="figure">{{ contract.sold.amount | amount }}</b>: margin <b>{{ contract.sold.marginPercent }} %</b>.
              </p>
              <p>
                At list price it would have been <span class="figure">{{ contract.sold.atList | amount }}</span> and {{ contract.sold.listMarginPercent }} %.
              </p>
            } @else {
              <p class="quiet">Nothing is sold under it yet.</p>
            }
            <h3>What happened</h3>
            <nock-history [rows]="store.history()" />
          }
        </ng-container>
        <ng-container acts>
          @if (mayWrite()) {
            <button mat-flat-button type="button" (click)="paste('')">Paste lines <kbd>V</kbd></button>
          }
          <button mat-button type="button" (click)="copy()">Copy the lines <kbd>C</kbd></button>
          <a mat-button routerLink="/prices">All contracts</a>
          <p class="said" role="alert">{{ pasting() === null ? store.fault() : '' }}</p>
        </ng-container>
      </nock-sheet>
    } @else {
      <p class="none quiet" role="status">{{ store.fault() || 'Fetching the contract …' }}</p>
    }
  `,
  styles: `
    .state {
      font-size: 13px;
      font-weight: 400;
      margin-left: 6px;
    }
    .head {
      display: flex;
      gap: 14px;
      margin: 10px 0;
    }
    dt {
      font-size: 12.5px;
      color: var(--ink-quiet);
    }
    dd {
      margin: 0;
      font-weight: 600;
    }
    .place {
      width: 190px;
      margin-left: 6px;
    }
    .name {
      width: 260px;
    }
    nock-day-field {
      display: block;
      width: 142px;
    }
    .buyers {
      display: flex;
      flex-wrap: wrap;
      gap: 4px 14px;
      align-items: center;
    }
    td {
      height: 40px;
    }
    .late {
      color: var(--late);
    }
    .said {
      margin: 0 0 0 auto;
      color: var(--open);
      font-weight: 600;
    }
    .none {
      padding: 20px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ContractSheet {
  protected readonly store = inject(ContractStore);
  private readonly clipboard = inject(Clipboard);
  private readonly snack = inject(MatSnackBar);
  protected readonly mayWrite = inject(Session).mayPlan;
  readonly id = input.required({ transform: numberAttribute });

  protected readonly states = { in_force: 'in force', coming: 'not in force yet', ended: 'ended' } as const;
  protected readonly reader = readContractLines;
  protected readonly at = signal<number | null>(null);
  protected readonly selected = computed(() => this.store.contract()?.lines.find((line) => line.id === this.at()) ?? null);
  /** What is being pasted; null: nothing. */
  protected readonly pasting = signal<string | null>(null);

  constructor() {
    effect(() => {
      const id = this.id();
      untracked(() => this.store.open(id));
    });
    inject(Keys).use([
      { key: 'V', does: 'paste lines from a spreadsheet', run: () => this.paste('') },
      { key: 'C', does: 'copy the lines for a spreadsheet', run: () => this.copy() },
    ]);
  }

  /** `a tray`, `each`. */
  protected per(line: ContractLineView): string {
    const name = unitName(line.unit ?? '', '1');
    return name === 'each' ? name : `a ${name}`;
  }

  /** How much of its most is bought, in percent. */
  protected share(line: ContractLineView): number {
    return line.most === null ? 0 : Math.floor((Number(line.used) * 100) / Number(line.most));
  }

  protected rename(name: string): void {
    const wanted = name.trim();
    if (wanted === '') this.store.fault.set('A contract needs a name.');
    else if (wanted !== this.store.contract()?.name) this.store.change({ name: wanted });
  }

  protected add({ id }: CustomerFound): void {
    const buyers = this.buyers();
    if (buyers.some((buyer) => buyer.customer === id && buyer.shipTo === null))
      return this.store.fault.set('They buy under it already, at every address. Choose one address for it first.');
    this.store.change({ buyers: [...buyers, { customer: id, shipTo: null }] });
  }

  /** There is something to choose: they have several addresses. */
  protected mayChoose(buyer: ContractBuyer): boolean {
    return this.mayWrite() && (buyer.places.length > 1 || buyer.shipTo !== null);
  }

  /** Has the contract hold for one address of a buyer's, or for all (null). */
  protected limit(of: ContractBuyer, place: number | null): void {
    const changed = this.buyers().map((buyer) =>
      buyer.customer === of.customer && buyer.shipTo === (of.shipTo?.id ?? null) ? { customer: buyer.customer, shipTo: place } : buyer,
    );
    this.store.change({ buyers: changed });
  }

  protected drop(gone: ContractBuyer): void {
    const same = (buyer: { customer: number; shipTo: number | null }) => buyer.customer === gone.customer && buyer.shipTo === (gone.shipTo?.id ?? null);
    this.store.change({ buyers: this.buyers().filter((buyer) => !same(buyer)) });
  }

  protected paste(text: string): boolean {
    if (!this.mayWrite() || this.pasting() !== null) return false;
    this.store.fault.set('');
    this.pasting.set(text);
    return true;
  }

  protected copy(): boolean {
    const contract = this.store.contract();
    if (!contract) return false;
    this.clipboard.copy(writeContractLines(contract.lines));
    this.snack.open(`${contract.lines.length} lines copied: paste them into a spreadsheet.`, undefined, { duration: 4000 });
    return true;
  }

  protected write(rows: readonly SheetLine[], all: boolean): void {
    this.store.write(rows, all, () => {
      this.pasting.set(null);
      this.snack.open(`${rows.length} lines written.`, undefined, { duration: 4000 });
    });
  }

  /** Enter changes a line as text: its row as it would be pasted. */
  protected key(event: KeyboardEvent, line: ContractLineView): void {
    rowKey(event, () => this.paste(writeContractLines([line])));
  }

  private buyers(): { customer: number; shipTo: number | null }[] {
    return (this.store.contract()?.buyers ?? []).map(({ customer, shipTo }) => ({ customer, shipTo: shipTo?.id ?? null }));
  }
}
