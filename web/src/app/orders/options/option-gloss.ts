import { ChangeDetectionStrategy, Component, computed, inject, viewChild } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { sayRoute, whyRoute } from '@nockwright/core/shortages';
import { Session } from '../../access';
import { AmountPipe, DayPipe, Keys, ListChoice, Spoken } from '../../paper';
import { OrderStore } from '../order-store';
import { LineOptions } from './line-options';

/** Why one would take the option that is looked at, what to say, and what it does to others. */
@Component({
  selector: 'nock-option-gloss',
  imports: [MatButton, AmountPipe, DayPipe, ListChoice, Spoken],
  template: `
    @if (options.current(); as option) {
      <section aria-label="Option">
        <h3>Option {{ options.at() + 1 }}: {{ option.label }}</h3>
        <p>{{ why() }}</p>
        @if (option.possible && option.remarks.length > 0) {
          <p class="small quiet">{{ option.remarks.join('; ') }}</p>
        }
        @for (row of option.obliges; track row.words) {
          <p class="asks">
            <b aria-hidden="true">{{ row.kind === 'consent' ? '?' : '!' }}</b> {{ row.words }}
          </p>
        }
        @if (options.drops() && options.places().length > 1) {
          <div class="place">
            <span>ships to</span>
            <nock-list-choice
              what="Where a drop shipment goes"
              [choices]="options.places()"
              [chosen]="options.place()"
              (choose)="options.place.set($event ?? options.places()[0]![0])"
            />
          </div>
        }
        @if (option.possible) {
          <nock-spoken [text]="say()" />
          <button mat-flat-button type="button" [disabled]="store.busy()" (click)="options.take(option)">
            Take option {{ options.at() + 1 }} <kbd>{{ options.at() + 1 }}</kbd>
          </button>
        }
        @for (words of options.offers().takesBack; track words) {
          <p class="small">Any option but backorder: {{ words }}.</p>
        }
        @if (options.offers().frees.length > 0) {
          <p class="small">
            What it frees could serve
            @for (row of options.offers().frees; track row.number + row.item) {
              {{ row.customer }} ({{ row.number }}: {{ row.quantity | amount }}{{ row.to ? ', ' : '' }}{{ row.to ? (row.to | day) : '' }}){{
                $last ? '.' : ', '
              }}
            }
          </p>
        } @else {
          <p class="small quiet">No promise moves later.</p>
        }
      </section>
    }
  `,
  styles: `
    p {
      margin: 6px 0 0;
    }
    .asks {
      color: var(--late);
    }
    .place {
      display: flex;
      align-items: center;
      gap: 8px;
      margin-top: 6px;
    }
    button {
      margin-top: 6px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OptionGloss {
  protected readonly store = inject(OrderStore);
  protected readonly options = inject(LineOptions);
  private readonly session = inject(Session);
  private readonly spoken = viewChild(Spoken);
  protected readonly why = computed(() => whyRoute(this.options.current()!, this.options.offers().routes, this.options.offers().policy));
  protected readonly say = computed(() => sayRoute(this.options.current()!, this.session.today()));

  constructor() {
    inject(Keys).use([{ key: 'C', does: 'copy the sentence to say', run: () => (this.spoken() ? this.spoken()!.copy() : false) }]);
  }
}
