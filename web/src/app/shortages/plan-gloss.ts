import { ChangeDetectionStrategy, Component, inject } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatProgressBar } from '@angular/material/progress-bar';
import { RouterLink } from '@angular/router';
import { dealingWords } from '@nockwright/contract/history';
import { Session } from '../access';
import { AmountPipe, ListChoice } from '../paper';
import { Ripple } from '../ripple';
import { BoardStore } from './board-store';
import { POLICY_CHOICES } from './route-words';

const GATHERED = { purchase: 'Purchase from', drop_ship: 'Shipped by', transfer: 'Transfer from', assembly: 'Assembly of' } as const;
const DOCUMENT_PATHS = { purchase: [], transfer: ['transfers'], assembly: ['assemblies'] } as const;

/** What would be done for the lines that are chosen: what it makes, whom it moves, each line's way; and what came of it. */
@Component({
  selector: 'nock-plan-gloss',
  imports: [MatButton, MatProgressBar, RouterLink, AmountPipe, ListChoice, Ripple],
  template: `
    @if (store.progress(); as progress) {
      <h2>Routing</h2>
      <mat-progress-bar [value]="progress.total > 0 ? (100 * progress.done) / progress.total : 0" aria-label="Progress of routing" />
      <p role="status">All lines are routed, or none.</p>
    } @else if (store.outcome(); as outcome) {
      <div role="status">
        <h2>{{ outcome.lines }} {{ outcome.lines === 1 ? 'line' : 'lines' }} routed</h2>
      </div>
      @for (document of outcome.documents; track document.kind + document.id) {
        <p>
          <a [routerLink]="['/supply', ...paths[document.kind], document.id]">{{ document.kind }} {{ document.number }}</a>
        </p>
      }
      @for (row of outcome.freed; track $index) {
        <p class="small">{{ said(row) }}</p>
      }
      @if (outcome.left.length > 0) {
        <h3>Left as they are</h3>
        @for (row of outcome.left; track row.line) {
          <p class="open">{{ nameOf(row.line) }}: {{ row.why }}</p>
        }
      }
      <button mat-button type="button" (click)="store.outcome.set(null)">Close</button>
    } @else if (store.chosen().size === 0) {
      <h2>Options</h2>
      <p>
        Choose lines with <kbd>Space</kbd>, or all that the filter finds with <kbd>A</kbd>: the best option of each stands under its line; here stands what is
        bought together. <kbd>Enter</kbd> opens the order, with every option of a line.
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
              }}{{ row.joins ? ', joins ' + row.joins : '' }}: {{ row.lines }} {{ row.lines === 1 ? 'line' : 'lines' }}, {{ row.value | amount }}
              {{ currency() }}
              @for (remark of row.remarks; track remark) {
                <span class="remark">{{ remark }}</span>
              }
            </p>
          }
        }
        @if (plan.asks > 0) {
          <p class="late">{{ plan.asks }} {{ plan.asks === 1 ? 'line needs' : 'lines need' }} the customer’s consent: left out, ask on the order.</p>
        }
        @if (plan.without > 0) {
          <p class="open">{{ plan.without }} {{ plan.without === 1 ? 'line has' : 'lines have' }} no option with a day.</p>
        }
        <nock-ripple [ripple]="plan.ripple" [(accepted)]="store.accepted" />
      } @else {
        <p class="quiet">{{ store.fault() || 'Looking for options …' }}</p>
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
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlanGloss {
  protected readonly currency = inject(Session).currency;
  protected readonly store = inject(BoardStore);
  protected readonly gathered = GATHERED;
  protected readonly paths = DOCUMENT_PATHS;
  protected readonly said = dealingWords;
  protected readonly policies = [['', 'as each customer wants'] as const, ...POLICY_CHOICES];

  protected nameOf(line: number): string {
    const row = [...this.store.routed(), ...this.store.short().rows].find((one) => one.line === line);
    return row ? `${row.number}/${row.lineNo} ${row.item}` : `line ${line}`;
  }
}
