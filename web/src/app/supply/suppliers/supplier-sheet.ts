import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { supplyRoutes, type SupplierItem, type SupplierPage } from '@nockwright/contract/supply';
import type { Happened } from '@nockwright/contract/shape';
import { shortDay } from '@nockwright/core/calendar';
import { catchError, EMPTY, forkJoin, switchMap } from 'rxjs';
import { Session } from '../../access';
import { Api } from '../../api';
import { Live } from '../../live';
import { AmountPipe, DayPipe, History, Keys, PricePipe, rowKey, Sheet } from '../../paper';
import { LatenessPicture } from './lateness-picture';
import { SupplierItemForm } from './supplier-item-form';
import { SupplierTermsForm } from './supplier-terms-form';
import { daysInWords } from './weekdays';

/** A supplier: what they want, what they sell at which terms, how they deliver. */
@Component({
  selector: 'nock-supplier-sheet',
  imports: [RouterLink, MatButton, AmountPipe, DayPipe, PricePipe, History, Sheet, LatenessPicture, SupplierItemForm, SupplierTermsForm],
  template: `
    @if (supplier(); as supplier) {
      <nock-sheet>
        <ng-container sheet>
          <h1>
            {{ supplier.name }} <span class="quiet code">{{ supplier.code }}</span>
          </h1>
          <dl>
            <div>
              <dt>Mail</dt>
              <dd>{{ supplier.email || 'none: hand them the paper' }}</dd>
            </div>
            <div>
              <dt>Needs</dt>
              <dd>
                {{ supplier.leadDays }} working days{{
                  supplier.transitDays ? ', ' + supplier.transitDays + (supplier.transitDays === 1 ? ' day' : ' days') + ' on the road' : ''
                }}
              </dd>
            </div>
            <div>
              <dt>Takes orders</dt>
              <dd>{{ days(supplier.orderDays) }}{{ supplier.cutoff ? ' until ' + supplier.cutoff : '' }}</dd>
            </div>
            <div>
              <dt>Ordered now, it comes</dt>
              <dd>{{ supplier.nextOrder.arrives | day }}</dd>
            </div>
            <div>
              <dt>An order comes to</dt>
              <dd>{{ supplier.minimumValue === '0' ? 'any amount' : 'at least ' + (supplier.minimumValue | amount) }}</dd>
            </div>
            <div>
              <dt>Freight</dt>
              <dd>
                {{ supplier.freight === '0' ? 'none' : (supplier.freight | price)
                }}{{ supplier.freight !== '0' && supplier.freightFreeFrom ? ', free from ' + (supplier.freightFreeFrom | amount) : '' }}
              </dd>
            </div>
            <div>
              <dt>To our customers</dt>
              <dd>{{ supplier.dropShips ? 'ships, for ' + (supplier.dropShipFee | price) : 'does not ship' }}</dd>
            </div>
            <div>
              <dt>Files</dt>
              <dd>{{ supplier.exchanges ? 'UBL, both ways' : 'none' }}</dd>
            </div>
          </dl>
          <h2>How they deliver</h2>
          @if (supplier.score; as score) {
            @if (score.receipts > 0) {
              <p>
                <b>{{ score.onTimePercent }} %</b> of {{ score.receipts }} receipts on time. Half came no later than {{ after(score.medianDays) }}, nine of ten
                no later than {{ after(score.worstTenthDays) }}.
                @if (score.inFullPercent !== null) {
                  All came of <b>{{ score.inFullPercent }} %</b> of {{ score.endedLines }} lines{{
                    score.damagedLines > 0 ? ', damaged goods on ' + score.damagedLines : ''
                  }}.
                }
                Bought in twelve months: {{ score.bought | price }}.
              </p>
              <nock-lateness-picture [score]="score" />
              <p class="months small">
                @for (month of recent(); track month.month) {
                  <span
                    ><span class="quiet">{{ monthName(month.month) }}</span> {{ month.onTimePercent }} % of {{ month.receipts }}</span
                  >
                }
              </p>
            } @else {
              <p class="quiet">Nothing has come from them yet: they are taken to deliver as all suppliers do.</p>
            }
          }
          <h2>What they sell</h2>
          <table class="ruled" aria-label="Items of the supplier">
            <thead>
              <tr>
                <th>Item</th>
                <th>Their code</th>
                <th class="figure">Cost</th>
                <th>From more on</th>
                <th class="figure">At least</th>
                <th class="figure">In lots of</th>
                <th class="figure">Days</th>
                <th>Goes back</th>
              </tr>
            </thead>
            <tbody>
              @for (row of supplier.items; track row.item) {
                <tr tabindex="0" [class.marked]="row.item === editing()?.item" (click)="edit(row)" (keydown)="key($event, row)">
                  <td>
                    <a class="code" [routerLink]="['/items', row.item]" tabindex="-1">{{ row.item }}</a>
                    <div class="small quiet">{{ row.description }}{{ row.discontinued ? ', no longer made' : '' }}</div>
                  </td>
                  <td class="code">{{ row.theirCode }}</td>
                  <td class="figure">{{ row.cost | price }}</td>
                  <td class="small">
                    @for (step of row.breaks; track step.from) {
                      <div>{{ step.from | amount }}: {{ step.cost | price }}</div>
                    }
                  </td>
                  <td class="figure">{{ row.minimum | amount }}</td>
                  <td class="figure">{{ row.multiple | amount }}</td>
                  <td class="figure">{{ row.leadDays ?? '' }}</td>
                  <td>{{ row.returnable ? '' : 'not returnable' }}</td>
                </tr>
              } @empty {
                <tr>
                  <td colspan="8" class="quiet none">They sell nothing yet.</td>
                </tr>
              }
            </tbody>
          </table>
        </ng-container>
        <ng-container gloss>
          @if (form() === 'terms') {
            <nock-supplier-terms-form [supplier]="supplier" (changed)="show($event)" (closed)="form.set(null)" />
          } @else if (form() === 'item') {
            <nock-supplier-item-form [supplier]="supplier" [known]="editing()" (changed)="show($event)" (closed)="form.set(null)" />
          } @else {
            <h2>What happened</h2>
            <nock-history [rows]="history()" />
          }
        </ng-container>
        <ng-container acts>
          @if (maySell()) {
            <button mat-flat-button type="button" (click)="terms()">Change terms <kbd>E</kbd></button>
            <button mat-button type="button" (click)="edit(null)">Another item <kbd>I</kbd></button>
          }
          <a mat-button routerLink="/supply" [queryParams]="{ q: supplier.name }">Purchases from them</a>
          <a mat-button routerLink="/supply/suppliers">All suppliers <kbd>Esc</kbd></a>
        </ng-container>
      </nock-sheet>
    } @else {
      <p class="none quiet" role="status">{{ fault() || 'Fetching the supplier …' }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
      height: 100%;
      min-height: 0;
    }
    dl {
      display: flex;
      flex-wrap: wrap;
      gap: 6px 28px;
      margin: 8px 0 14px;
    }
    dt {
      font-size: 12.5px;
      color: var(--ink-quiet);
    }
    dd {
      margin: 0;
      font-weight: 600;
    }
    h2 {
      margin: 18px 0 4px;
    }
    .months {
      display: flex;
      flex-wrap: wrap;
      gap: 2px 18px;
    }
    tbody tr {
      cursor: pointer;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SupplierSheet {
  private readonly router = inject(Router);
  protected readonly maySell = inject(Session).maySell;
  readonly code = input.required<string>();
  protected readonly supplier = signal<SupplierPage | null>(null);
  protected readonly history = signal<readonly Happened[]>([]);
  protected readonly fault = signal('');
  protected readonly form = signal<'terms' | 'item' | null>(null);
  protected readonly editing = signal<SupplierItem | null>(null);
  protected readonly recent = computed(() => (this.supplier()?.score.months ?? []).slice(-6));
  protected readonly days = daysInWords;

  constructor() {
    const api = inject(Api);
    const live = inject(Live);
    toObservable(this.code)
      .pipe(
        switchMap((supplier) =>
          live.kept(
            () =>
              forkJoin([api.call(supplyRoutes.readSupplier, { params: { supplier } }), api.call(supplyRoutes.supplierHistory, { params: { supplier } })]).pipe(
                catchError((error: Error) => (this.fault.set(error.message), EMPTY)),
              ),
            (topic) => topic === `supplier:${supplier}`,
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe(([supplier, history]) => {
        this.supplier.set(supplier);
        this.history.set(history);
      });
    effect(() => {
      this.code();
      untracked(() => this.form.set(null));
    });
    inject(Keys).use([
      { key: 'E', does: 'change what the supplier wants', run: () => this.terms() },
      { key: 'I', does: 'another item that they sell', run: () => this.edit(null) },
      { key: 'Escape', does: 'to all suppliers', run: () => void this.router.navigateByUrl('/supply/suppliers') },
    ]);
  }

  protected show(supplier: SupplierPage): void {
    this.supplier.set(supplier);
    this.form.set(null);
  }

  protected terms(): boolean {
    if (!this.maySell()) return false;
    this.form.set('terms');
    return true;
  }

  protected edit(row: SupplierItem | null): boolean {
    if (!this.maySell()) return false;
    this.editing.set(row);
    // Another item, another form.
    this.form.set(null);
    setTimeout(() => this.form.set('item'));
    return true;
  }

  /** `Mar 27`. */
  protected monthName(month: string): string {
    return `${shortDay(`${month}-01`, '').split(' ')[2]} ${month.slice(2, 4)}`;
  }

  /** `on the day`, `3 days after it`. */
  protected after(days: number | null): string {
    if (days === null || days === 0) return 'the day given';
    const count = `${Math.abs(days)} ${Math.abs(days) === 1 ? 'day' : 'days'}`;
    return days < 0 ? `${count} before it` : `${count} after it`;
  }

  protected key(event: KeyboardEvent, row: SupplierItem): void {
    rowKey(event, () => void this.edit(row));
  }
}
