import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal, type OnInit } from '@angular/core';
import { stockRoutes, type StockPlace } from '@nockwright/contract/items';
import { readDay, shortDay } from '@nockwright/core/calendar';
import { Session } from '../../access';
import { Api } from '../../api';
import { GlossForm, TextField } from '../../paper';
import { decisionOf, Preview, Ripple } from '../../ripple';

/** A label was read wrongly: the last day of a lot, or its name, is corrected; whose promises move by it stands there first. */
@Component({
  selector: 'nock-lot-form',
  imports: [GlossForm, TextField, Ripple],
  template: `
    <nock-gloss-form heading="Lot {{ place().lot }} of {{ place().item }}" act="Correct the lot" [ready]="!busy()" (done)="correct()" (left)="closed.emit()">
      <nock-text-field fieldId="lot-name" [most]="20" [(text)]="name">Lot</nock-text-field>
      <nock-text-field fieldId="lot-expires" [most]="20" [(text)]="day">Expires (empty: it keeps)</nock-text-field>
      <nock-text-field fieldId="lot-reason" [most]="200" [(text)]="reason">Why</nock-text-field>
      <p class="open" role="alert">{{ fault() || preview.fault() }}</p>
      @if (preview.shown(); as view) {
        <nock-ripple [ripple]="view" [(accepted)]="accepted" />
      }
    </nock-gloss-form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LotForm implements OnInit {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  readonly place = input.required<StockPlace>();
  readonly closed = output<void>();

  protected readonly name = signal('');
  protected readonly day = signal('');
  protected readonly reason = signal('');
  protected readonly accepted = signal<readonly number[]>([]);
  protected readonly fault = signal('');
  protected readonly busy = signal(false);
  /** The last day that is typed; null: it keeps; undefined: that is no day. */
  private readonly expires = computed(() => {
    // What stands there may be a day that has passed: as it stands it is not read as one to come.
    if (this.day() === this.stood()) return this.place().expires;
    return this.day().trim() === '' ? null : (readDay(this.day(), this.session.today()) ?? undefined);
  });
  private readonly stood = computed(() => {
    const { expires } = this.place();
    return expires === null ? '' : shortDay(expires, this.session.today());
  });
  private readonly wish = computed(() => {
    const expires = this.expires();
    return expires === undefined ? null : { ...(expires === null ? {} : { expires }), accept: this.accepted().join(',') };
  });
  protected readonly preview = new Preview(this.wish, (query) =>
    this.api.call(stockRoutes.previewLot, { params: { item: this.place().item, lot: this.place().lot }, query }),
  );

  ngOnInit(): void {
    this.name.set(this.place().lot);
    this.day.set(this.stood());
  }

  protected correct(): void {
    const expires = this.expires();
    const [lot, name, reason] = [this.place().lot, this.name().trim(), this.reason().trim()];
    this.fault.set('');
    if (expires === undefined) return this.fault.set(`“${this.day()}” is no day: type it as 12 may 2027.`);
    if (name === '') return this.fault.set('What is the lot called?');
    if (reason === '') return this.fault.set('Why? The reason stands with the item.');
    if (this.busy()) return;
    this.preview.once((ripple) => {
      this.busy.set(true);
      const body = { expires, reason, ...(name === lot ? {} : { rename: name }), decision: decisionOf(ripple, this.accepted()) };
      this.api.call(stockRoutes.correctLot, { params: { item: this.place().item, lot }, body }).subscribe({
        next: () => this.closed.emit(),
        error: (error: Error) => {
          this.busy.set(false);
          this.fault.set(error.message);
        },
      });
    });
  }
}
