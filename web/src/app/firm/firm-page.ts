import { ChangeDetectionStrategy, Component, computed, type ElementRef, inject, signal, viewChildren } from '@angular/core';
import { takeUntilDestroyed, toObservable, toSignal } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { paymentRoutes } from '@nockwright/contract/billing';
import { firmRoutes, type Firm } from '@nockwright/contract/firm';
import { catchError, EMPTY, of, Subject, switchMap } from 'rxjs';
import { Api } from '../api';
import { Live } from '../live';
import { History, Keys, RecordForm, rowKey, Sheet } from '../paper';
import { firmRecord } from './firm-record';
import { documentsOf, seriesName } from './series-words';
import { seriesRecord } from './series-record';
import { taxRecord, type TaxClasses } from './tax-record';

/** Who keeps the desk, as papers, mails and files name it, and how documents are numbered. A manager changes it. */
@Component({
  selector: 'nock-firm-page',
  imports: [Sheet, History, RecordForm, MatButton],
  template: `
    <nock-sheet>
      <ng-container sheet>
        <h1>{{ firm()?.name ?? 'Firm' }}</h1>
        @if (firm(); as firm) {
          <dl>
            @for (row of facts(); track row[0]) {
              <dt>{{ row[0] }}</dt>
              <dd [class.quiet]="row[1] === ''">{{ row[1] || 'not given' }}</dd>
            }
          </dl>
          <h2 id="series">Number series</h2>
          <table class="ruled" aria-labelledby="series">
            <thead>
              <tr>
                <th>For</th>
                <th>Next number</th>
              </tr>
            </thead>
            <tbody>
              @for (series of firm.series; track series.name) {
                <tr
                  #row
                  tabindex="0"
                  [class.marked]="series.name === at()"
                  [attr.aria-selected]="series.name === at()"
                  (focus)="at.set(series.name)"
                  (click)="at.set(series.name)"
                  (keydown)="key($event)"
                >
                  <td>{{ nameOf(series.name) }}</td>
                  <td class="code">{{ series.prefix }}{{ series.next }}</td>
                </tr>
              }
            </tbody>
          </table>
          <h2 id="taxes">Tax rates</h2>
          <table class="ruled" aria-labelledby="taxes">
            <thead>
              <tr>
                <th>Class of items</th>
                <th class="figure">Rate, %</th>
              </tr>
            </thead>
            <tbody>
              @for (row of taxes(); track row.code) {
                <tr tabindex="0" (click)="edit(row)" (keydown)="taxKey($event, row)">
                  <td>{{ row.name }}</td>
                  <td class="figure">{{ row.percent }}</td>
                </tr>
              }
            </tbody>
          </table>
        }
        <p class="open" role="alert">{{ fault() }}</p>
      </ng-container>
      <ng-container gloss>
        @if (tax(); as record) {
          <nock-record-form [record]="record" (saved)="taxed($event)" (closed)="taxing.set(null)" />
        } @else if (record(); as record) {
          <nock-record-form [record]="record" (saved)="close($event)" (closed)="close(null)" />
        } @else if (chosen(); as series) {
          <h2>{{ nameOf(series.name) }}</h2>
          <p>{{ documentsIn(series.name) }} made next: {{ series.prefix }}{{ series.next }}, then {{ series.prefix }}{{ series.next + 1 }}.</p>
          <p class="quiet">Press Enter or N to edit it.</p>
        } @else {
          <h2>Where it stands</h2>
          <p>At the head and foot of every paper, on mails to customers and suppliers, and in the files sent to suppliers.</p>
          <p class="quiet">Papers made before keep what they said.</p>
          <h3>History</h3>
          <nock-history [rows]="history()" />
        }
      </ng-container>
      <ng-container acts>
        <button mat-flat-button type="button" [disabled]="!firm()" (click)="form.set('firm')">Edit firm <kbd>E</kbd></button>
        @if (chosen()) {
          <button mat-button type="button" (click)="form.set('series')">Edit number series <kbd>N</kbd></button>
        }
      </ng-container>
    </nock-sheet>
  `,
  styles: `
    h1 {
      margin-bottom: 14px;
    }
    dl {
      display: grid;
      grid-template-columns: max-content 1fr;
      gap: 6px 24px;
      margin: 0 0 26px;
    }
    dt {
      color: var(--ink-quiet);
    }
    dd {
      margin: 0;
    }
    table {
      max-width: 520px;
    }
    td {
      height: 34px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class FirmPage {
  private readonly api = inject(Api);
  private readonly rows = viewChildren<ElementRef<HTMLElement>>('row');
  private readonly again = new Subject<void>();
  protected readonly firm = signal<Firm | null>(null);
  protected readonly at = signal<string | null>(null);
  protected readonly form = signal<'firm' | 'series' | null>(null);
  protected readonly fault = signal('');
  protected readonly nameOf = seriesName;
  protected readonly documentsIn = documentsOf;
  protected readonly chosen = computed(() => this.firm()?.series.find((series) => series.name === this.at()) ?? null);
  protected readonly facts = computed(() => {
    const firm = this.firm();
    if (!firm) return [];
    const town = [firm.postcode, firm.town].filter(Boolean).join(' ');
    return [
      ['Address', [firm.street, town, firm.country].filter(Boolean).join(', ')],
      ['Phone', firm.phone],
      ['Mail', firm.email],
      ['Tax number', firm.taxNumber],
      ['GS1 company prefix', firm.gs1Prefix],
      ['Foot of papers', firm.footer],
      ['Currency', firm.currency],
      ['Code in files', firm.code],
    ] as const;
  });
  protected readonly history = toSignal(
    toObservable(this.firm).pipe(switchMap((firm) => (firm ? this.api.call(firmRoutes.firmHistory).pipe(catchError(() => of([]))) : of([])))),
    { initialValue: [] },
  );
  protected readonly taxes = signal<TaxClasses>([]);
  protected readonly taxing = signal<TaxClasses[number] | null>(null);
  protected readonly tax = computed(() => {
    const row = this.taxing();
    return row && taxRecord(this.api, row);
  });
  protected readonly record = computed(() => {
    const [firm, form, series] = [this.firm(), this.form(), this.chosen()];
    if (!firm) return null;
    if (form === 'firm') return firmRecord(this.api, firm);
    return form === 'series' && series ? seriesRecord(this.api, series, firm.version) : null;
  });

  constructor() {
    this.api.call(paymentRoutes.listTaxClasses).subscribe({ next: (rows) => this.taxes.set(rows), error: (error: Error) => this.fault.set(error.message) });
    inject(Live)
      .kept(
        () => this.api.call(firmRoutes.readFirm).pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
        (topic) => topic === 'firm:firm',
        this.again,
      )
      .pipe(takeUntilDestroyed())
      .subscribe((firm) => this.firm.set(firm));
    const some = (run: () => void) => () => this.form() === null && this.chosen() !== null && run();
    inject(Keys).use([
      { key: 'E', does: 'edit the firm', run: () => this.form() === null && this.firm() !== null && this.form.set('firm') },
      { key: 'N', does: 'edit the number series', run: some(() => this.form.set('series')) },
      { key: 'ArrowDown', does: 'to the number series', run: () => this.rows()[0]?.nativeElement.focus() },
    ]);
  }

  protected key(event: KeyboardEvent): void {
    rowKey(event, () => this.form.set('series'));
  }

  /** `firm`: as it is now; null where nothing was changed. */
  protected edit(row: TaxClasses[number]): void {
    this.form.set(null);
    this.taxing.set(row);
  }

  protected taxKey(event: KeyboardEvent, row: TaxClasses[number]): void {
    rowKey(event, () => this.edit(row));
  }

  protected taxed(rows: TaxClasses): void {
    this.taxes.set(rows);
    this.taxing.set(null);
  }

  protected close(firm: Firm | null): void {
    this.form.set(null);
    if (firm) this.firm.set(firm);
    else this.again.next();
  }
}
