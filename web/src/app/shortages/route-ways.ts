import { ChangeDetectionStrategy, Component, input, output, signal } from '@angular/core';
import type { RouteChoice, RouteChoices } from '@nockwright/contract/shortages';
import { AmountPipe, DayPipe, ListChoice, PricePipe } from '../paper';
import { RoutePicture } from './route-picture';
import { lateWords, POLICY_CHOICES, type PolicyName } from './route-words';

/** The ways for what is short of a line: what the policy prefers first, with a picture of day against margin. A way is taken by its number. */
@Component({
  selector: 'nock-route-ways',
  imports: [AmountPipe, DayPipe, ListChoice, PricePipe, RoutePicture],
  template: `
    @let offers = choices();
    <ol class="ways">
      @for (route of offers.routes; track $index) {
        <li [class.beaten]="route.beaten">
          <button
            type="button"
            (click)="take.emit(route)"
            (focus)="looked.set($index)"
            (mouseenter)="looked.set($index)"
            [disabled]="busy() || !route.possible"
            [class.at]="looked() === $index"
            [class.shared]="route.parts.length > 1"
          >
            <span class="n">{{ $index < 9 ? $index + 1 : '' }}</span>
            <b class="label">
              @if (route.parts.length === 1) {
                {{ route.label }}
              } @else {
                @for (part of route.parts; track $index) {
                  <span class="part"
                    >{{ part.quantity | amount }} {{ part.label }}{{ part.shipDay ? ', ' : '' }}{{ part.shipDay ? (part.shipDay | day) : '' }}</span
                  >
                }
              }
            </b>
            <span class="figure"
              >{{ route.marginAmount | amount }} <span class="quiet">{{ route.marginPercent ?? '–' }} %</span></span
            >
            <span class="facts">
              @if (!route.possible) {
                <span class="open">not possible</span>
              } @else if (route.shipDay) {
                {{ route.parts.length > 1 ? 'the last leaves' : 'leaves' }} {{ route.shipDay | day }},
                <span [class.late]="route.daysLate! > 0">{{ late(route.daysLate!) }}</span>
                @if (route.holds < 100) {
                  <span class="quiet">, holds {{ route.holds }} in 100</span>
                }
                @if (route.shipments > 1) {
                  <span class="quiet">, {{ route.shipments }} shipments</span>
                }
              } @else {
                <span class="quiet">nothing leaves for it</span>
              }
            </span>
            @for (row of route.obliges; track row.words) {
              <span class="facts obliges"
                ><span class="mark" aria-hidden="true">{{ row.kind === 'consent' ? '?' : '!' }}</span> {{ row.words }}</span
              >
            }
            @if (route.parts.length === 1) {
              <span class="small quiet facts">
                @if (route.shipDay) {
                  delivered {{ route.deliveryDay | day }}, costs {{ route.unitCost | price }} each;
                }
                {{ route.remarks.join('; ') }}
              </span>
            }
          </button>
        </li>
      }
    </ol>
    <div class="policy">
      <span class="quiet">Ranked</span>
      <nock-list-choice what="What is ranked first" [choices]="policies" [chosen]="offers.policy" (choose)="policy.emit($any($event ?? 'on_time'))" />
    </div>
    <nock-route-picture [routes]="offers.routes" [requested]="requested()" [(at)]="looked" />
    @for (words of offers.takesBack; track words) {
      <p class="small">Another way than to wait: {{ words }}.</p>
    }
    @if (offers.frees.length > 0) {
      <p class="small">
        What it gives back could serve
        @for (row of offers.frees; track row.number + row.item) {
          {{ row.customer }} ({{ row.number }}: {{ row.quantity | amount }}{{ row.to ? ', ' : '' }}{{ row.to ? (row.to | day) : '' }}){{ $last ? '.' : ', ' }}
        }
      </p>
    } @else {
      <p class="small quiet">None of these moves a promise of somebody else.</p>
    }
  `,
  styles: `
    .policy {
      margin-top: 8px;
      display: flex;
      align-items: center;
      gap: 8px;
    }
    ol {
      list-style: none;
      margin: 0;
      padding: 0;
    }
    li {
      border-bottom: 1px solid var(--hairline);
    }
    button {
      all: unset;
      box-sizing: border-box;
      width: 100%;
      cursor: pointer;
      display: grid;
      grid-template-columns: 14px 1fr auto;
      gap: 0 8px;
      padding: 6px 4px;
    }
    button:not(:disabled):hover,
    button:focus-visible,
    button.at:not(:disabled) {
      background: var(--paper-marked);
    }
    button:focus-visible {
      outline: 2px solid var(--act);
    }
    button:disabled {
      cursor: default;
      color: var(--ink-quiet);
    }
    .n {
      color: var(--act);
      font-weight: 700;
    }
    button:disabled .n {
      color: var(--ink-quiet);
    }
    .part {
      display: block;
    }
    /* The parts have the width, what it brings stands below them. */
    .shared .label {
      grid-column: 2 / -1;
    }
    .shared .figure {
      grid-column: 2 / -1;
      justify-self: start;
    }
    .beaten .label {
      font-weight: 400;
    }
    .facts {
      grid-column: 2 / -1;
    }
    .late {
      color: var(--late);
    }
    .open {
      color: var(--open);
    }
    .mark {
      display: inline-block;
      width: 12px;
      font-weight: 700;
      color: var(--late);
    }
    p {
      margin: 6px 0 0;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class RouteWays {
  readonly choices = input.required<RouteChoices>();
  readonly requested = input.required<string>();
  readonly busy = input(false);
  readonly take = output<RouteChoice>();
  readonly policy = output<PolicyName>();

  protected readonly policies = POLICY_CHOICES;
  protected readonly looked = signal(0);
  protected readonly late = lateWords;
}
