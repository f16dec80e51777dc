import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal } from '@angular/core';
import { stockRoutes, type AdjustmentReason } from '@nockwright/contract/items';
import type { BodyOf } from '@nockwright/contract/shape';
import { Api } from '../api';
import { AmountPipe, GlossForm, isQuantity, ListChoice, TextField } from '../paper';
import { decisionOf, Preview, Ripple } from '../ripple';
import { REASONS } from './places/reasons';

/** What was counted instead of what the books say: whose promises move by it, then done or left. */
@Component({
  selector: 'nock-count-form',
  imports: [GlossForm, ListChoice, TextField, AmountPipe, Ripple],
  template: `
    <nock-gloss-form
      heading="Count of {{ item() }} at {{ pool().name }}"
      act="Correct the count"
      [ready]="preview.shown() !== null && !busy()"
      (done)="confirm()"
      (left)="closed.emit()"
    >
      <nock-text-field fieldId="counted" [figure]="true" [(text)]="counted">Counted (the books say {{ pool().onHand | amount }})</nock-text-field>
      <nock-list-choice what="Cause" [choices]="reasons" [chosen]="cause()" (choose)="cause.set($any($event ?? 'other'))" />
      <nock-text-field fieldId="count-reason" [most]="200" [(text)]="reason">Why it differs</nock-text-field>
      <p class="open" role="alert">{{ fault() || preview.fault() }}</p>
      @if (preview.shown(); as view) {
        <nock-ripple [ripple]="view" [(accepted)]="accepted" />
      }
    </nock-gloss-form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class CountForm {
  private readonly api = inject(Api);
  readonly item = input.required<string>();
  readonly pool = input.required<{ readonly warehouse: string; readonly name: string; readonly onHand: string }>();
  /** One place of it; else all that may be sold at the warehouse. */
  readonly place = input<number | null>(null);
  readonly closed = output<void>();

  protected readonly counted = signal('');
  protected readonly reason = signal('');
  protected readonly reasons = REASONS;
  protected readonly cause = signal<AdjustmentReason>('other');
  protected readonly accepted = signal<readonly number[]>([]);
  protected readonly fault = signal('');
  protected readonly busy = signal(false);
  private readonly wish = computed(() => {
    const [counted, { warehouse, onHand }, place] = [this.counted().trim(), this.pool(), this.place()];
    if (!isQuantity(counted) || Number(counted) === Number(onHand)) return null;
    return { warehouse, counted, ...(place === null ? {} : { place }), accept: this.accepted().join(',') };
  });
  protected readonly preview = new Preview(this.wish, (query) => this.api.call(stockRoutes.previewCount, { params: { item: this.item() }, query }));

  protected confirm(): void {
    const [wish, place] = [this.wish(), this.place()];
    const reason = this.reason().trim();
    if (wish === null) return this.fault.set('Type what was counted, where it is not what the books say.');
    if (reason === '') return this.fault.set('Say why it differs.');
    if (this.busy()) return;
    this.fault.set('');
    const { warehouse, counted } = wish;
    this.preview.once((ripple) => {
      const decision = decisionOf(ripple, this.accepted());
      this.send({ warehouse, counted, ...(place === null ? {} : { place }), cause: this.cause(), reason, decision });
    });
  }

  private send(body: BodyOf<typeof stockRoutes.countStock>): void {
    this.busy.set(true);
    this.api.call(stockRoutes.countStock, { params: { item: this.item() }, body }).subscribe({
      next: () => this.closed.emit(),
      error: (error: Error) => {
        this.busy.set(false);
        this.fault.set(error.message);
      },
    });
  }
}
