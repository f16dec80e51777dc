import { ChangeDetectionStrategy, Component, inject, input, linkedSignal, output, signal } from '@angular/core';
import { itemRoutes, type ItemPage } from '@nockwright/contract/items';
import { readUnit } from '@nockwright/core/units';
import { Session } from '../access';
import { Api } from '../api';
import { LineForm, isWhole } from '../paper';

/** The units an item is sold by, in what steps, what else it is called, and how much life must be left of it. */
@Component({
  selector: 'nock-sold-by',
  imports: [LineForm],
  template: `
    <h3>Sold by</h3>
    @for (unit of item().units; track unit.code) {
      <p>
        {{ unit.name }} <span class="quiet">{{ words(unit.step) }}</span>
      </p>
    }
    @if (item().also) {
      <p>
        Also called: <b>{{ item().also }}</b>
      </p>
    }
    @if (maySell()) {
      <nock-line-form
        fieldId="item-also"
        label="Also called, sizes"
        [hint]="item().also || 'bee suit, large, 44 in'"
        act="Save"
        [most]="300"
        [(text)]="also"
        (said)="setAlso($event)"
      />
    }
    @if (item().tracksExpiry) {
      <p>
        Least life left on delivery: <b>{{ item().leastLife }} {{ item().leastLife === 1 ? 'day' : 'days' }}</b>
      </p>
      @if (maySell()) {
        <nock-line-form fieldId="least-life" label="Least life left on delivery, days" hint="90" act="Save" [(text)]="life" (said)="setLife($event)" />
      }
    }
    @if (mayChange()) {
      <nock-line-form fieldId="sold-step" label="Sell a unit in steps of" hint="each 0.5" act="Set" [(text)]="text" (said)="set($event)" />
    }
    @if (fault()) {
      <p class="open" role="alert">{{ fault() }}</p>
    }
  `,
  styles: `
    p {
      margin: 4px 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class SoldBy {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  protected readonly mayChange = this.session.mayPlan;
  protected readonly maySell = this.session.maySell;
  protected readonly life = signal('');
  protected readonly also = linkedSignal(() => this.item().also);
  readonly item = input.required<ItemPage>();
  readonly changed = output<ItemPage>();
  protected readonly text = signal('');
  protected readonly fault = signal('');

  protected words(step: string): string {
    return Number(step) === 1 ? 'whole' : `in steps of ${Number(step)}`;
  }

  protected setLife(said: string): void {
    if (!isWhole(said)) return this.fault.set(`“${said}”: type a number of days, as in 90.`);
    this.api.call(itemRoutes.setLeastLife, { params: { item: this.item().code }, body: { days: Number(said) } }).subscribe({
      next: (item) => {
        this.life.set('');
        this.fault.set('');
        this.changed.emit(item);
      },
      error: (error: Error) => this.fault.set(error.message),
    });
  }

  protected setAlso(said: string): void {
    this.api.call(itemRoutes.setAlso, { params: { item: this.item().code }, body: { also: said.trim() } }).subscribe({
      next: (item) => {
        this.fault.set('');
        this.changed.emit(item);
      },
      error: (error: Error) => this.fault.set(error.message),
    });
  }

  protected set(said: string): void {
    const [word = '', step = ''] = said.trim().split(/\s+/);
    const unit = readUnit(word) ?? word.toUpperCase();
    if (!this.item().units.some((row) => row.code === unit)) return this.fault.set(`“${said}”: name a unit it is sold by, then the step, as in “each 0.5”.`);
    this.api.call(itemRoutes.setStep, { params: { item: this.item().code }, body: { unit, step } }).subscribe({
      next: (item) => {
        this.text.set('');
        this.fault.set('');
        this.changed.emit(item);
      },
      error: (error: Error) => this.fault.set(error.message),
    });
  }
}
