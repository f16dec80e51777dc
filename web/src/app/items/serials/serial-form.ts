import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { serialRoutes, stockRoutes, type SerialRow, type StockPlace } from '@nockwright/contract/items';
import { catchError, of, switchMap } from 'rxjs';
import { Api } from '../../api';
import { GlossForm, ListChoice, TextArea, TextField, type Choice } from '../../paper';

/** Says which pieces are in a bin: scanned one after the other, typed, or as a range. */
@Component({
  selector: 'nock-serial-form',
  imports: [GlossForm, ListChoice, TextArea, TextField],
  template: `
    <nock-gloss-form [heading]="'Serial numbers of ' + item()" act="Enter serial numbers" [ready]="!busy()" (done)="save()" (left)="closed.emit()">
      @if (choices().length > 0) {
        <nock-list-choice what="Place" [choices]="choices()" [chosen]="place()" (choose)="chosen.set($event ?? '')" />
      } @else {
        <p>No {{ item() }} is in stock.</p>
      }
      <nock-text-area fieldId="serials" [most]="20000" [rows]="8" [(text)]="serials">One a line, or a range A-01..A-20</nock-text-area>
      <nock-text-field fieldId="serials-why" [most]="200" [(text)]="reason">Why (may be empty)</nock-text-field>
      <p class="open" role="alert">{{ fault() }}</p>
    </nock-gloss-form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SerialForm {
  private readonly api = inject(Api);
  readonly item = input.required<string>();
  readonly saved = output<{ readonly description: string; readonly tracked: boolean; readonly rows: readonly SerialRow[] }>();
  readonly closed = output<void>();
  protected readonly places = signal<readonly StockPlace[]>([]);
  protected readonly chosen = signal('');
  protected readonly serials = signal('');
  protected readonly reason = signal('');
  protected readonly fault = signal('');
  protected readonly busy = signal(false);
  protected readonly choices = computed(() =>
    this.places().map((row): Choice => [
      String(row.id),
      `${row.warehouse} ${row.bin || 'no bin'}${row.lot ? `, lot ${row.lot}` : ''}${row.status === 'quarantine' ? ', quarantine' : ''}: ${row.quantity}`,
    ]),
  );
  protected readonly place = computed(() => this.chosen() || (this.choices()[0]?.[0] ?? ''));

  constructor() {
    toObservable(this.item)
      .pipe(
        switchMap((item) =>
          this.api.call(stockRoutes.listPlaces, { query: { item } }).pipe(catchError((error: Error) => (this.fault.set(error.message), of([])))),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((places) => this.places.set(places));
  }

  protected save(): void {
    const place = this.places().find((row) => String(row.id) === this.place());
    if (!place) return this.fault.set(`No ${this.item()} is in stock: receive it first.`);
    if (this.serials().trim() === '') return this.fault.set('Scan or type the serial numbers.');
    if (this.busy()) return;
    this.busy.set(true);
    const { warehouse, bin, lot, status } = place;
    const body = {
      warehouse,
      bin,
      status,
      serials: this.serials(),
      ...(lot ? { lot } : {}),
      ...(this.reason().trim() ? { reason: this.reason().trim() } : {}),
    };
    this.api.call(serialRoutes.placeSerials, { params: { item: this.item() }, body }).subscribe({
      next: (found) => {
        this.busy.set(false);
        this.saved.emit(found);
      },
      error: (error: Error) => {
        this.busy.set(false);
        this.fault.set(error.message);
      },
    });
  }
}
