import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { supplyRoutes, type AssemblyView } from '@nockwright/contract/supply';
import { Api } from '../../api';
import { DayField, isWhole, TextField, typedOver } from '../../paper';
import { Preview, RippleForm, type Settled } from '../../ripple';
import { DocumentStore } from './document-store';

/** Another day for an assembly, fewer of it, or its end: the ripple first, then done or left. */
@Component({
  selector: 'nock-assembly-change',
  imports: [DayField, TextField, RippleForm],
  template: `
    <nock-ripple-form
      [heading]="kind() === 'end' ? 'Cancel assembly: components return to stock' : assembly().parent ? 'Change day' : 'Change day or quantity'"
      [does]="kind() === 'end' ? 'Cancel assembly' : 'Save'"
      [only]="kind() === 'end' ? 'Cancel only: backorders with calls' : 'Save only: promises at risk'"
      [asks]="kind() === 'end' ? 'Why' : 'Why (for the history)'"
      [preview]="preview"
      [version]="assembly().version"
      [busy]="store.busy()"
      [(accepted)]="accepted"
      (settled)="confirm($event)"
      (left)="closed.emit()"
    >
      @if (kind() === 'change') {
        <label for="new-day">Now done by</label>
        <nock-day-field fieldId="new-day" [day]="day()" (changed)="day.set($event)" />
        @if (assembly().parent; as whole) {
          <p class="small">{{ whole.number }}, which it goes into, is done as much later as it has to wait for it.</p>
        } @else {
          <nock-text-field fieldId="new-open" [figure]="true" [(text)]="open">Still to assemble</nock-text-field>
          @if (!whole()) {
            <p class="open small" role="alert">expected a whole number</p>
          }
        }
      }
    </nock-ripple-form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AssemblyChange {
  private readonly api = inject(Api);
  protected readonly store = inject<DocumentStore<AssemblyView>>(DocumentStore);
  readonly assembly = input.required<AssemblyView>();
  readonly kind = input.required<'change' | 'end'>();
  readonly closed = output<void>();

  private readonly expected = computed(() => this.assembly().expectedDay);
  private readonly awaited = computed(() => this.assembly().open);
  protected readonly day = typedOver(() => this.expected());
  protected readonly open = typedOver(() => this.awaited());
  protected readonly whole = computed(() => isWhole(this.open(), 999_999_999));
  protected readonly accepted = signal<readonly number[]>([]);
  /** What is different from what stands; null where nothing is, or a number is none. */
  private readonly wish = computed(() => {
    const version = this.assembly().version;
    if (this.kind() === 'end') return { change: { open: '0' }, version, accepted: this.accepted() };
    if (!this.whole()) return null;
    const change = {
      ...(this.day() === this.expected() ? {} : { expectedDay: this.day() }),
      ...(Number(this.open()) === Number(this.awaited()) ? {} : { open: this.open().trim() }),
    };
    return Object.keys(change).length === 0 ? null : { change, version, accepted: this.accepted() };
  });
  protected readonly preview = new Preview(
    this.wish,
    ({ change: { expectedDay, open }, accepted }: { change: { expectedDay?: string; open?: string }; accepted: readonly number[] }) =>
      this.api.call(supplyRoutes.previewAssemblyChange, {
        params: { assembly: this.assembly().id },
        query: { ...(expectedDay ? { day: expectedDay } : {}), ...(open ? { open } : {}), accept: accepted.join(',') },
      }),
  );

  protected confirm({ reason, decision, then }: Settled): void {
    const wish = this.wish();
    if (!this.whole()) return this.preview.fault.set('Still to assemble: expected a whole number.');
    if (!wish) return this.preview.fault.set('Nothing is different yet: type another day, or fewer.');
    if (this.kind() === 'end' && reason === '') return this.preview.fault.set('Why? The history keeps it.');
    const settled = decision ? { decision } : {};
    this.store.run(
      ({ id, version }) =>
        this.kind() === 'end'
          ? this.api.call(supplyRoutes.cancelAssembly, { params: { assembly: id }, body: { version, reason, ...settled } })
          : this.api.call(supplyRoutes.changeAssembly, {
              params: { assembly: id },
              body: { version, ...wish.change, ...(reason ? { note: reason } : {}), ...settled },
            }),
      () => {
        this.closed.emit();
        then();
      },
    );
  }
}
