import { Clipboard } from '@angular/cdk/clipboard';
import { ScrollingModule } from '@angular/cdk/scrolling';
import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatSnackBar } from '@angular/material/snack-bar';
import { RouterLink } from '@angular/router';
import type { Happened } from '@nockwright/contract/shape';
import { pricingRoutes, type PriceListView, type PriceRow } from '@nockwright/contract/pricing';
import { priceInWords } from '@nockwright/core/money';
import { readPrices, writePrices, type SheetPrice } from '@nockwright/core/pricing';
import { unitName } from '@nockwright/core/units';
import { finalize } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';
import { AmountPipe, FilterField, History, Keys, PricePipe, Sheet, UnitPipe } from '../paper';
import { rowsOf } from './contract-store';
import { PastePanel } from './paste-panel';

/** A price list with its quantity breaks, against list price and cost. */
@Component({
  selector: 'nock-price-list-sheet',
  imports: [ScrollingModule, RouterLink, MatButton, AmountPipe, FilterField, History, PastePanel, PricePipe, Sheet, UnitPipe],
  template: `
    <nock-sheet>
      <ng-container sheet>
        <div class="list-head">
          <h1>Price list {{ list()?.name ?? '' }}</h1>
          <nock-filter what="prices" [text]="filter()" (typed)="filter.set($event)" hint="filter by item or description" />
        </div>
        <div class="row head" aria-hidden="true">
          <span>Item</span><span></span><span>Unit</span><span class="figure">From</span><span class="figure">Price</span><span class="figure">List price</span
          ><span class="figure">Margin</span><span>Same goods for less</span>
        </div>
        <cdk-virtual-scroll-viewport itemSize="32" role="table" aria-label="Prices" tabindex="0">
          <div *cdkVirtualFor="let row of shown()" class="row" role="row">
            <span class="code" role="cell">{{ row.item }}</span>
            <span class="what" role="cell">{{ row.description }}</span>
            <span role="cell">{{ row.unit | unit: '1' }}</span>
            <span class="figure" role="cell">{{ row.from | amount }}</span>
            <span class="figure" role="cell" [class.late]="row.lower !== null">{{ row.price | price }}</span>
            <span class="figure" role="cell">{{ row.listPrice | price }}</span>
            <span class="figure" role="cell">{{ row.marginPercent ?? '–' }} %</span>
            <span class="small" role="cell">{{ lowerWords(row) }}</span>
          </div>
        </cdk-virtual-scroll-viewport>
      </ng-container>
      <ng-container gloss>
        @if (pasting()) {
          <nock-paste-panel
            title="Prices of the list"
            columns="item, unit, from, price"
            [reader]="reader"
            [busy]="busy()"
            [fault]="fault()"
            (closed)="pasting.set(false)"
            (written)="write($event.rows, $event.all)"
          />
        } @else {
          <h2>How a price is found</h2>
          <p>A price set by hand comes first, then contract lines in force, then the customer’s own list, then the list, each with its quantity breaks.</p>
          <p class="quiet">
            The break is the highest quantity that the line reaches in the unit ordered. Where no list has a price, it is the list price of the stocking unit
            times the unit’s ratio.
          </p>
          <p class="quiet">Drafts show a price that has changed beside the one agreed; what is released stays as it was told.</p>
          <h3>History</h3>
          <nock-history [rows]="history()" />
        }
      </ng-container>
      <ng-container acts>
        @if (mayWrite()) {
          <button mat-flat-button type="button" (click)="paste()">Paste prices <kbd>V</kbd></button>
        }
        <button mat-button type="button" (click)="copy()">Copy the prices <kbd>C</kbd></button>
        <a mat-button routerLink="/prices">All contracts</a>
        <p class="said" role="alert">{{ pasting() ? '' : fault() }}</p>
      </ng-container>
    </nock-sheet>
  `,
  styles: `
    cdk-virtual-scroll-viewport {
      height: calc(100vh - 200px);
    }
    .row {
      display: grid;
      grid-template-columns: 120px 1fr 70px 60px 80px 80px 64px 190px;
      gap: 10px;
      height: 32px;
      align-items: center;
      border-bottom: 1px solid var(--hairline);
      padding: 0 8px;
    }
    .head .figure {
      font-family: inherit;
    }
    .head {
      font-size: 12.5px;
      color: var(--ink-quiet);
      font-weight: 600;
      border-bottom-color: var(--rule);
    }
    .figure {
      text-align: right;
    }
    .what {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .said {
      margin: 0 0 0 auto;
      color: var(--open);
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PriceListSheet {
  private readonly api = inject(Api);
  private readonly clipboard = inject(Clipboard);
  private readonly snack = inject(MatSnackBar);
  protected readonly mayWrite = inject(Session).mayPlan;
  readonly code = input.required<string>();

  protected readonly reader = readPrices;
  protected readonly list = signal<PriceListView | null>(null);
  protected readonly filter = signal('');
  protected readonly pasting = signal(false);
  protected readonly busy = signal(false);
  protected readonly fault = signal('');
  protected readonly history = signal<readonly Happened[]>([]);
  /** By what the same goods cost less in this list. */
  protected lowerWords({ lower }: PriceRow): string {
    return lower === null ? '' : `${priceInWords(lower.price)} a ${unitName(lower.unit)}${lower.from === '1' ? '' : ` from ${lower.from}`}`;
  }

  protected readonly shown = computed(() => {
    const words = this.filter().toLowerCase().split(/\s+/).filter(Boolean);
    return (this.list()?.prices ?? []).filter((row) => words.every((word) => `${row.item} ${row.description}`.toLowerCase().includes(word)));
  });

  constructor() {
    effect(() => {
      const list = this.code();
      untracked(() =>
        this.api.call(pricingRoutes.readPriceList, { params: { list } }).subscribe({
          next: (view) => this.show(view),
          error: (error: Error) => this.fault.set(error.message),
        }),
      );
    });
    inject(Keys).use([
      { key: 'V', does: 'paste prices from a spreadsheet', run: () => this.paste() },
      { key: 'C', does: 'copy the prices for a spreadsheet', run: () => this.copy() },
    ]);
  }

  private show(view: PriceListView): void {
    this.list.set(view);
    this.api.call(pricingRoutes.priceListHistory, { params: { list: view.code } }).subscribe({
      next: (rows) => this.history.set(rows),
      error: (error: Error) => this.fault.set(error.message),
    });
  }

  protected paste(): boolean {
    if (!this.mayWrite() || this.pasting()) return false;
    this.fault.set('');
    this.pasting.set(true);
    return true;
  }

  protected copy(): boolean {
    const prices = this.shown();
    this.clipboard.copy(writePrices(prices));
    this.snack.open(`${prices.length} prices copied: paste them into a spreadsheet.`, undefined, { duration: 4000 });
    return true;
  }

  protected write(prices: readonly SheetPrice[], all: boolean): void {
    this.busy.set(true);
    this.fault.set('');
    this.api
      .call(pricingRoutes.storePrices, { params: { list: this.code() }, body: { prices, all, version: this.list()!.version } })
      .pipe(finalize(() => this.busy.set(false)))
      .subscribe({
        next: (view) => {
          this.show(view);
          this.pasting.set(false);
          this.snack.open(`${prices.length} prices written.`, undefined, { duration: 4000 });
        },
        error: (error: Error) => this.fault.set(rowsOf(error.message)),
      });
  }
}
