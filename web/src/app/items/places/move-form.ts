import { ChangeDetectionStrategy, Component, computed, inject, input, output, signal, type OnInit } from '@angular/core';
import { stockRoutes, type StockPlace } from '@nockwright/contract/items';
import type { BodyOf } from '@nockwright/contract/shape';
import { Api } from '../../api';
import { GlossForm, isQuantity, ListChoice, TextArea, TextField } from '../../paper';
import { decisionOf, Preview, Ripple } from '../../ripple';
import { REASONS } from './reasons';

const HEADINGS = { move: 'Into another bin', quarantine: 'Into quarantine', release: 'Out of quarantine' } as const;
const ACTS = { move: 'Move goods', quarantine: 'Put into quarantine', release: 'Release from quarantine' } as const;

/** Goods of one place go to another bin, into quarantine or out of it: whose promises move by it stands there first. */
@Component({
  selector: 'nock-move-form',
  imports: [GlossForm, ListChoice, TextArea, TextField, Ripple],
  template: `
    <nock-gloss-form [heading]="heading()" [act]="act()" [ready]="!busy()" (done)="move()" (left)="closed.emit()">
      <nock-text-field fieldId="move-quantity" [figure]="true" [(text)]="quantity">How many of {{ place().quantity }}</nock-text-field>
      <nock-text-field fieldId="move-bin" [most]="40" [(text)]="bin">{{ kind() === 'move' ? 'Bin' : 'Bin (empty: where it stands)' }}</nock-text-field>
      @if (place().tracksSerials && isPart()) {
        <nock-text-area fieldId="move-serials" [most]="20000" [rows]="3" [(text)]="serials">Serial numbers of what moves</nock-text-area>
      }
      @if (kind() !== 'move') {
        <nock-list-choice what="Why" [choices]="reasons" [chosen]="cause()" (choose)="cause.set($any($event ?? 'other'))" />
        <nock-text-field fieldId="move-note" [most]="200" [(text)]="note">Note</nock-text-field>
      }
      <p class="open" role="alert">{{ fault() || preview.fault() }}</p>
      @if (preview.shown(); as view) {
        <nock-ripple [ripple]="view" [(accepted)]="accepted" />
      }
    </nock-gloss-form>
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MoveForm implements OnInit {
  private readonly api = inject(Api);
  readonly place = input.required<StockPlace>();
  readonly kind = input.required<'move' | 'quarantine' | 'release'>();
  readonly closed = output<void>();

  protected readonly reasons = REASONS;
  protected readonly heading = computed(() => `${HEADINGS[this.kind()]}: ${this.place().item}`);
  protected readonly act = computed(() => ACTS[this.kind()]);
  protected readonly quantity = signal('');
  protected readonly bin = signal('');
  protected readonly serials = signal('');
  /** Not all of the place: which pieces move is to be said. */
  protected readonly isPart = computed(() => this.quantity().trim() !== this.place().quantity);
  protected readonly cause = signal<(typeof REASONS)[number][0]>('other');
  protected readonly note = signal('');
  protected readonly accepted = signal<readonly number[]>([]);
  protected readonly fault = signal('');
  protected readonly busy = signal(false);
  private readonly status = computed(() => (this.kind() === 'quarantine' ? ('quarantine' as const) : ('available' as const)));
  private readonly wish = computed(() => {
    const quantity = this.quantity().trim();
    if (this.kind() === 'move' || !isQuantity(quantity) || Number(quantity) === 0 || Number(quantity) > Number(this.place().quantity)) return null;
    return { quantity, status: this.status(), accept: this.accepted().join(',') };
  });
  protected readonly preview = new Preview(this.wish, (query) => this.api.call(stockRoutes.previewMove, { params: { place: this.place().id }, query }));

  ngOnInit(): void {
    this.quantity.set(this.place().quantity);
  }

  protected move(): void {
    if (this.busy()) return;
    const [quantity, bin] = [this.quantity().trim(), this.bin().trim().toUpperCase()];
    this.fault.set('');
    if (!isQuantity(quantity) || Number(quantity) === 0) return this.fault.set('How many? Expected a quantity.');
    if (this.kind() === 'move' && bin === '') return this.fault.set('Into which bin?');
    const note = this.note().trim();
    const serials = this.serials().trim();
    const goods = { quantity, ...(bin ? { bin } : {}), ...(note ? { note } : {}), ...(serials && this.isPart() ? { serials } : {}) };
    if (this.kind() === 'move') return this.send(goods);
    if (!this.preview.asks()) return this.fault.set(`How many? At most ${this.place().quantity} are there.`);
    this.preview.once((ripple) => this.send({ ...goods, status: this.status(), cause: this.cause(), decision: decisionOf(ripple, this.accepted()) }));
  }

  private send(body: BodyOf<typeof stockRoutes.moveGoods>): void {
    this.busy.set(true);
    this.api.call(stockRoutes.moveGoods, { params: { place: this.place().id }, body }).subscribe({
      next: () => this.closed.emit(),
      error: (error: Error) => {
        this.busy.set(false);
        this.fault.set(error.message);
      },
    });
  }
}
