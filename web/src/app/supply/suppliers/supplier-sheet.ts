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
import { AmountPipe, DayPipe, History, Keys, PricePipe, RecordForm, rowKey, Sheet } from '../../paper';
import { LatenessPicture } from './lateness-picture';
import { supplierItem } from './supplier-item';
import { supplierTerms } from './supplier-terms';
import { daysInWords } from './weekdays';

/** A supplier: what they want, what they sell at which terms, how they deliver. */
@Component({
  selector: 'nock-supplier-sheet',
  imports: [RouterLink, MatButton, AmountPipe, DayPipe, PricePipe, History, Sheet, LatenessPicture, RecordForm],
  templateUrl: './supplier-sheet.html',
  styleUrl: './supplier-sheet.css',
  host: { class: 'record-sheet' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SupplierSheet {
  private readonly router = inject(Router);
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  protected readonly maySell = this.session.maySell;
  readonly code = input.required<string>();
  protected readonly supplier = signal<SupplierPage | null>(null);
  protected readonly history = signal<readonly Happened[]>([]);
  protected readonly fault = signal('');
  protected readonly form = signal<'terms' | 'item' | null>(null);
  protected readonly editing = signal<SupplierItem | null>(null);
  protected readonly recent = computed(() => (this.supplier()?.score.months ?? []).slice(-6));
  protected readonly days = daysInWords;
  protected readonly record = computed(() => {
    const [supplier, form] = [this.supplier(), this.form()];
    if (!supplier || !form) return null;
    return form === 'terms' ? supplierTerms(this.api, supplier, this.session.today()) : supplierItem(this.api, supplier, this.editing());
  });

  constructor() {
    const { api } = this;
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
    this.form.set('item');
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
