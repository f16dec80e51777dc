import { ChangeDetectionStrategy, Component, computed, inject, input, viewChild } from '@angular/core';
import { RouterLink } from '@angular/router';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import { Session } from '../access';
import { AmountPipe, DayPipe, Keys, Spoken, UnitPipe } from '../paper';
import { LineDetails } from './line-details';
import { LineWays } from './line-ways';
import { LineOptions } from './options/line-options';
import { PriceGloss } from './price-gloss';
import { changedWords } from './quote/changed-words';

/** What to say about a line, why its days are what they are, the other ways there are, and where its price came from. */
@Component({
  selector: 'nock-line-gloss',
  imports: [RouterLink, AmountPipe, DayPipe, UnitPipe, LineDetails, LineWays, PriceGloss, Spoken],
  template: `
    @let view = line();
    <h2>Line {{ view.lineNo }}: {{ view.quantity | amount }} {{ view.unit | unit: view.quantity }} {{ view.item }}</h2>
    @for (word of changed(); track word) {
      <p class="late">
        <b>{{ word }}</b>
      </p>
    }
    @for (reason of view.why; track reason) {
      <p class="reason">{{ reason }}</p>
    }

    @if (view.offered) {
      <nock-price-gloss [order]="order()" [line]="view" [changing]="changing()" />
    }
    @if (!options.current()) {
      <nock-spoken [text]="view.spoken" />
    }
    @if (view.holdsWords) {
      <p class="sure">{{ view.holdsWords }}</p>
    }
    <nock-line-ways [order]="order()" [line]="view" />
    @if (view.schedule.length > 0) {
      <h3>Where they come from</h3>
      @for (entry of view.schedule; track $index) {
        <div class="entry">
          <b>{{ entry.quantity | amount }} on {{ entry.day | day }}</b>
          @if (!entry.kept && order().state === 'released') {
            <span class="quiet"> possible, not promised yet</span>
          }
          @if (entry.arrives) {
            <div class="late">really {{ entry.arrives | day }}: its supply comes later</div>
          }
          @if (entry.broken) {
            <div class="open">no supply is left for it</div>
          }
          <ul>
            @for (peg of entry.from; track $index) {
              <li>
                <span class="figure">{{ peg.quantity | amount }}</span>
                <span>
                  @if (peg.purchase) {
                    <a [routerLink]="['/supply', peg.purchase]">{{ peg.label }}</a>
                  } @else {
                    {{ peg.label }}
                  }
                  @if (peg.days) {
                    <span class="quiet days">{{ peg.days }}</span>
                  }
                </span>
              </li>
            }
          </ul>
        </div>
      }
    }

    @if (!view.offered) {
      <nock-price-gloss [order]="order()" [line]="view" [changing]="changing()" />
    }
    @if (mayEdit()) {
      <nock-line-details [order]="order()" [line]="view" />
    }
  `,
  styles: `
    .reason {
      margin: 6px 0 0;
    }
    .sure {
      margin: 8px 0 0;
      font-weight: 600;
    }
    .entry + .entry {
      margin-top: 8px;
    }
    ul,
    ol {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      display: grid;
      grid-template-columns: minmax(44px, auto) 1fr;
      gap: 10px;
      padding: 2px 0;
    }
    .days {
      display: block;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class LineGloss {
  private readonly session = inject(Session);
  private readonly maySell = this.session.maySell;
  protected readonly options = inject(LineOptions);
  private readonly spoken = viewChild(Spoken);
  readonly order = input.required<OrderView>();
  readonly line = input.required<LineView>();
  /** The line is being changed and stands here as it would be: no way is taken for it yet. */
  readonly changing = input(false);

  protected readonly mayEdit = computed(() => this.maySell() && this.order().state === 'draft' && this.line().id > 0 && !this.changing());
  protected readonly changed = computed(() => changedWords(this.line(), this.session.today()));

  constructor() {
    inject(Keys).use([{ key: 'C', does: 'copy the sentence to say', run: () => (this.spoken() ? this.spoken()!.copy() : false) }]);
  }
}
