import { ChangeDetectionStrategy, Component, computed, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatProgressBar } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import { AmountPipe, DayPipe, ListChoice, UnitPipe } from '../paper';
import { Ripple } from '../ripple';
import { BoardStore } from './board-store';
import { asksCustomer, lateWords, POLICY_CHOICES } from './route-words';

const MOST_ROWS = 60;
const GATHERED = { purchase: 'Purchase from', drop_ship: 'Shipped by', transfer: 'Transfer from', assembly: 'Assembly of' } as const;
const DOCUMENT_PATHS = { purchase: [], transfer: ['transfers'], assembly: ['assemblies'] } as const;

/** What would be done for the lines that are chosen: what it makes, whom it moves, each line's way; and what came of it. */
@Component({
  selector: 'nock-plan-gloss',
  imports: [MatButton, MatProgressBar, RouterLink, AmountPipe, DayPipe, ListChoice, UnitPipe, Ripple],
  template: `
    @if (store.progress(); as progress) {
      <h2>Routing</h2>
      <mat-progress-bar [value]="progress.total > 0 ? (100 * progress.done) / progress.total : 0" aria-label="How far it has come" />
      <p role="status">Nothing is done by halves: all of it stands at once, or none.</p>
    } @else if (store.outcome(); as outcome) {
      <div role="status">
        <h2>{{ outcome.lines }} {{ outcome.lines === 1 ? 'line' : 'lines' }} routed</h2>
      </div>
      @for (document of outcome.documents; track document.kind + document.id) {
        <p>
          <a [routerLink]="['/supply', ...paths[document.kind], document.id]">{{ document.kind }} {{ document.number }}</a>
        </p>
      }
      @for (words of outcome.freed; track $index) {
        <p class="small">{{ words }}</p>
      }
      @if (outcome.left.length > 0) {
        <h3>Left as they are</h3>
        @for (row of outcome.left; track row.line) {
          <p class="open">{{ nameOf(row.line) }}: {{ row.why }}</p>
        }
      }
      <button mat-button type="button" (click)="store.outcome.set(null)">Good</button>
    } @else if (store.chosen().size === 0) {
      <h2>Ways out</h2>
      <p>
        Choose lines with <kbd>Space</kbd>, or all that the filter finds with <kbd>A</kbd>: the best way of each stands here, what is bought together, and whom
        it moves. <kbd>Enter</kbd> opens the order, where every way of a line stands.
      </p>
    } @else {
      <h2>{{ store.chosen().size }} {{ store.chosen().size === 1 ? 'line' : 'lines' }} chosen</h2>
      <div class="policy">
        <span class="quiet">Ranked</span>
        <nock-list-choice what="What is ranked first" [choices]="policies" [chosen]="store.policy() ?? ''" (choose)="store.policy.set($any($event))" />
      </div>
      @if (store.plan(); as plan) {
        @if (plan.gathered.length > 0) {
          <h3>What it makes</h3>
          @for (row of plan.gathered; track $index) {
            <p>
              <b>{{ gathered[row.kind] }} {{ row.from }}</b> {{ row.kind === 'assembly' ? 'at' : 'to' }} {{ row.to
              }}{{ row.joins ? ', joins ' + row.joins : '' }}: {{ row.lines }} {{ row.lines === 1 ? 'line' : 'lines' }}, {{ row.value | amount }} EUR
              @for (remark of row.remarks; track remark) {
                <span class="remark">{{ remark }}</span>
              }
            </p>
          }
        }
        @if (plan.asks > 0) {
          <p class="late">{{ plan.asks }} {{ plan.asks === 1 ? 'line waits' : 'lines wait' }} for a yes of the customer: left out, ask on the order.</p>
        }
        @if (plan.without > 0) {
          <p class="open">{{ plan.without }} {{ plan.without === 1 ? 'line has' : 'lines have' }} no way with a day.</p>
        }
        <nock-ripple [ripple]="plan.ripple" [(accepted)]="store.accepted" />
        <h3>Each line</h3>
        @for (row of shown(); track row.line) {
          <div class="row" [class.quiet]="row.route === null || asks(row.route)">
            <a class="code" [routerLink]="['/orders', row.order]" [queryParams]="{ at: row.line }">{{ row.number }}/{{ row.lineNo }}</a>
            {{ row.quantity | amount }} {{ row.unit | unit: row.quantity }} {{ row.item }}
            @if (row.route; as route) {
              @for (part of route.parts; track $index) {
                <div>
                  {{ route.parts.length > 1 ? part.quantity + ' ' : '' }}{{ part.label }}{{ part.shipDay ? ', ' : ''
                  }}<b>{{ part.shipDay ? (part.shipDay | day) : '' }}</b>
                </div>
              }
              @for (words of row.takesBack; track words) {
                <div class="small">{{ words }}</div>
              }
              <div class="small">
                <span [class.late]="(route.daysLate ?? 0) > 0">{{ route.daysLate === null ? '' : late(route.daysLate) + ', ' }}</span>{{
                  route.marginAmount | amount
                }}
                EUR{{ asks(route) ? ', the customer must be asked' : '' }}
              </div>
            } @else {
              <div class="open">no way with a day</div>
            }
          </div>
        }
        @if (plan.rows.length > shown().length) {
          <p class="quiet">and {{ plan.rows.length - shown().length }} more</p>
        }
      } @else {
        <p class="quiet">{{ store.fault() || 'Looking for ways …' }}</p>
      }
    }
  `,
  styles: `
    p {
      margin: 6px 0;
    }
    .policy {
      display: flex;
      align-items: center;
      gap: 8px;
    }
    .remark {
      display: block;
      color: var(--late);
    }
    .late {
      color: var(--late);
    }
    .open {
      color: var(--open);
    }
    .row {
      padding: 5px 0;
      border-bottom: 1px solid var(--hairline);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlanGloss {
  protected readonly store = inject(BoardStore);
  protected readonly gathered = GATHERED;
  protected readonly paths = DOCUMENT_PATHS;
  protected readonly policies = [['', 'as each customer wants'] as const, ...POLICY_CHOICES];
  protected readonly shown = computed(() => this.store.plan()?.rows.slice(0, MOST_ROWS) ?? []);
  protected readonly late = lateWords;
  protected readonly asks = asksCustomer;

  protected nameOf(line: number): string {
    const row = [...this.store.routed(), ...this.store.short().rows].find((one) => one.line === line);
    return row ? `${row.number}/${row.lineNo} ${row.item}` : `line ${line}`;
  }
}
