import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { consignmentRoutes, type CartonTypeView } from '@nockwright/contract/shipping';
import { Session } from '../../access';
import { Api } from '../../api';
import { amountInWords, Keys, ListPage, RecordForm, Sheet, type ListColumn } from '../../paper';
import { cartonTypeRecord } from './carton-type-record';

const litres = ({ length, width, height }: CartonTypeView) => (Number(length) * Number(width) * Number(height)) / 1000;
const cm = (value: string) => amountInWords(value);
/** What goes as it is has no size of its own. */
const sized = (row: CartonTypeView, words: string) => (row.code === 'OWN' ? '' : words);

const COLUMNS: readonly ListColumn<CartonTypeView>[] = [
  { id: 'code', name: 'Carton', text: (row) => row.code, sort: (row) => row.code },
  { id: 'name', name: 'Name', text: (row) => row.name, sort: (row) => row.name },
  { id: 'size', name: 'Inside, cm', figure: true, text: (row) => sized(row, `${cm(row.length)} × ${cm(row.width)} × ${cm(row.height)}`), sort: litres },
  { id: 'litres', name: 'Litres', figure: true, text: (row) => sized(row, amountInWords(String(Math.round(litres(row) * 10) / 10))), sort: litres, from: 620 },
  { id: 'tare', name: 'Empty, kg', figure: true, text: (row) => sized(row, amountInWords(row.tare)), sort: (row) => Number(row.tare), from: 520 },
  { id: 'most', name: 'At most, kg', figure: true, text: (row) => sized(row, amountInWords(row.most)), sort: (row) => Number(row.most) },
];

/** The kinds of cartons there are at the bench: what is proposed goes into them. */
@Component({
  selector: 'nock-carton-types-page',
  imports: [RouterLink, MatButton, ListPage, RecordForm, Sheet],
  template: `
    <nock-sheet>
      <ng-container sheet>
        <nock-list
          heading="Cartons"
          what="carton types"
          label="Carton types"
          [columns]="columns"
          [rows]="rows()"
          [key]="codeOf"
          [explains]="true"
          [current]="at()"
          [none]="fault() || 'No carton type yet.'"
          (looked)="look($event)"
          (opened)="edit()"
        >
          <a beside routerLink="/shipping">Shipping</a>
        </nock-list>
      </ng-container>
      <ng-container gloss>
        @if (record(); as record) {
          <nock-record-form [record]="record" (saved)="show($event)" (closed)="form.set(null)" />
        } @else {
          <h2>{{ chosen()?.name ?? 'Cartons' }}</h2>
          <p class="quiet">
            Packing proposes cartons of these sizes, the fewest that hold the goods within their weight. What fits into none goes in its own packaging.
          </p>
        }
      </ng-container>
      <ng-container acts>
        @if (maySell()) {
          <button mat-flat-button type="button" (click)="form.set('new')">New carton type <kbd>A</kbd></button>
          <button mat-button type="button" (click)="edit()" [disabled]="!chosen() || chosen()!.code === 'OWN'">Edit carton type <kbd>E</kbd></button>
        }
      </ng-container>
    </nock-sheet>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CartonTypesPage {
  private readonly api = inject(Api);
  protected readonly maySell = inject(Session).maySell;
  protected readonly columns = COLUMNS;
  protected readonly codeOf = (row: CartonTypeView) => row.code;
  protected readonly rows = signal<readonly CartonTypeView[]>([]);
  protected readonly at = signal<string | null>(null);
  protected readonly form = signal<'new' | 'edit' | null>(null);
  protected readonly fault = signal('');
  protected readonly chosen = computed(() => this.rows().find((row) => row.code === this.at()) ?? null);
  protected readonly record = computed(() => {
    const form = this.form();
    return form ? cartonTypeRecord(this.api, form === 'new' ? null : this.chosen()) : null;
  });

  constructor() {
    this.api.call(consignmentRoutes.cartonTypes).subscribe({ next: (rows) => this.rows.set(rows), error: (error: Error) => this.fault.set(error.message) });
    inject(Keys).use([
      { key: 'A', does: 'new carton type', run: () => this.maySell() && this.form() === null && this.form.set('new') },
      { key: 'E', does: 'edit the carton type', run: () => this.form() === null && this.edit() },
    ]);
  }

  protected look(row: CartonTypeView): void {
    if (row.code === this.at()) return;
    this.at.set(row.code);
    this.form.set(null);
  }

  protected edit(): boolean {
    const row = this.chosen();
    if (!this.maySell() || !row || row.code === 'OWN') return false;
    this.form.set('edit');
    return true;
  }

  protected show(rows: readonly CartonTypeView[]): void {
    this.rows.set(rows);
    this.form.set(null);
  }
}
