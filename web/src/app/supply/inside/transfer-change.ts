import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { supplyRoutes, type TransferView } from '@nockwright/contract/supply';
import { compareDecimal } from '@nockwright/core/money';
import { Api } from '../../api';
import { DayField, isQuantity, TextField, typedOver } from '../../paper';
import { Preview, RippleForm, type Settled } from '../../ripple';
import { DocumentStore } from './document-store';

/** Another day for a transfer, less of it while it has not left, or its end: the ripple first, then done or left. */
@Component({
  selector: 'nock-transfer-change',
  imports: [DayField, TextField, RippleForm],
  template: `
    <nock-ripple-form
      [heading]="kind() === 'end' ? 'Cancel transfer: the goods stay there' : transfer().state === 'open' ? 'Change day or quantity' : 'Change day'"
      [does]="kind() === 'end' ? 'Cancel transfer' : 'Save'"
      [only]="kind() === 'end' ? 'Cancel only: backorders with calls' : 'Save only: promises at risk'"
      [asks]="kind() === 'end' ? 'Why' : 'Why (for the history)'"
      [preview]="preview"
      [version]="transfer().version"
      [busy]="store.busy()"
      [(accepted)]="accepted"
      (settled)="confirm($event)"
      (left)="closed.emit()"
    >
      @if (kind() === 'change') {
        <label for="new-day">Now expected</label>
        <nock-day-field fieldId="new-day" [day]="day()" (changed)="day.set($event)" />
        @if (transfer().state === 'open') {
          <p class="small">It ships as late as that allows. What is not transferred stays where it is.</p>
          @for (line of open(); track line.id) {
            <nock-text-field [fieldId]="'bring-' + line.id" [figure]="true" [text]="typed().get(line.id) ?? line.open" (textChange)="type(line.id, $event)"
              >{{ line.item }} to transfer</nock-text-field
            >
          }
          @if (less() === null) {
            <p class="open small" role="alert">expected a quantity with at most four decimals</p>
          }
        }
      }
    </nock-ripple-form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class TransferChange {
  private readonly api = inject(Api);
  protected readonly store = inject<DocumentStore<TransferView>>(DocumentStore);
  readonly transfer = input.required<TransferView>();
  readonly kind = input.required<'change' | 'end'>();
  readonly closed = output<void>();

  private readonly expected = computed(() => this.transfer().expectedDay);
  protected readonly day = typedOver(() => this.expected());
  protected readonly accepted = signal<readonly number[]>([]);
  protected readonly open = computed(() => this.transfer().lines.filter((line) => compareDecimal(line.open, '0') > 0));
  /** What is typed as still to be brought, by line. */
  protected readonly typed = signal<ReadonlyMap<number, string>>(new Map());
  /** Lines of which another quantity is to come now; null where one is no quantity. */
  protected readonly less = computed(() => {
    if (this.kind() === 'end') return this.open().map((line) => ({ line: line.id, open: '0' }));
    const lines = this.open().map((line) => ({ line, open: this.typed().get(line.id)?.trim() ?? line.open }));
    if (lines.some(({ open }) => !isQuantity(open))) return null;
    return lines.flatMap(({ line, open }) => (compareDecimal(open, line.open) === 0 ? [] : [{ line: line.id, open }]));
  });
  private readonly wish = computed(() => {
    const [less, day, accepted, version] = [this.less(), this.day(), this.accepted(), this.transfer().version];
    return less === null || (less.length === 0 && day === this.expected()) ? null : { less, day, accepted, version };
  });
  protected readonly preview = new Preview(this.wish, ({ less, day, accepted }) =>
    this.api.call(supplyRoutes.previewTransferChange, {
      params: { transfer: this.transfer().id },
      query: {
        ...(day === this.expected() ? {} : { day }),
        ...(less.length === 0 ? {} : { lines: less.map(({ line, open }) => `${line}:${open}`).join(',') }),
        accept: accepted.join(','),
      },
    }),
  );

  protected type(line: number, quantity: string): void {
    this.typed.update((typed) => new Map(typed).set(line, quantity));
  }

  protected confirm({ reason, decision, then }: Settled): void {
    const [less, wish] = [this.less(), this.wish()];
    if (less === null) return this.preview.fault.set('Quantity to transfer: expected a quantity.');
    if (!wish) return this.preview.fault.set('Nothing is different yet: type another day, or less of an item.');
    if (this.kind() === 'end' && reason === '') return this.preview.fault.set('Why? The history keeps it.');
    const settled = decision ? { decision } : {};
    const day = wish.day === this.expected() ? {} : { expectedDay: wish.day };
    this.store.run(
      ({ id, version }) =>
        this.kind() === 'end'
          ? this.api.call(supplyRoutes.cancelTransfer, { params: { transfer: id }, body: { version, reason, ...settled } })
          : this.api.call(supplyRoutes.changeTransfer, {
              params: { transfer: id },
              body: { version, ...day, ...(less.length === 0 ? {} : { lines: less }), ...(reason ? { note: reason } : {}), ...settled },
            }),
      () => {
        this.closed.emit();
        then();
      },
    );
  }
}
