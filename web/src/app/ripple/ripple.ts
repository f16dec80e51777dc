import { NgTemplateOutlet } from '@angular/common';
import { ChangeDetectionStrategy, Component, computed, input, model } from '@angular/core';
import { MatCheckbox } from '@angular/material/checkbox';
import { RouterLink } from '@angular/router';
import type { RippleView } from '@nockwright/contract/promise';
import { AmountPipe, DayPipe } from '../paper';
import { moveInWords, rippleInWords, toneOf } from './ripple-words';

/** Before a change is done: whose promises it moves, worst first, what to say to each, and what it frees for whom. */
@Component({
  selector: 'nock-ripple',
  imports: [NgTemplateOutlet, RouterLink, MatCheckbox, AmountPipe, DayPipe],
  template: `
    @let view = ripple();
    <p class="sum" role="status" [class.late]="view.later.length > 0">{{ words() }}</p>
    @if (view.later.length > 0) {
      <h3>Moves later</h3>
      @for (row of view.later; track row.line) {
        <ng-container *ngTemplateOutlet="mover; context: { $implicit: row }" />
      }
    }
    @if (view.earlier.length > 0) {
      <h3>Comes earlier</h3>
      @for (row of view.earlier; track row.line) {
        <ng-container *ngTemplateOutlet="mover; context: { $implicit: row }" />
      }
    }
    @if (view.offers.length > 0 || accepted().length > 0) {
      <h3>Free for those who wait or are late, in their turn</h3>
      @for (row of view.offers; track row.line) {
        <mat-checkbox [checked]="false" (change)="take(row.line, true)">
          <b>{{ row.number }}/{{ row.lineNo }}</b> {{ row.customer }}: {{ row.quantity | amount }} {{ row.item }},
          {{ row.from ? (row.from | day) : 'waiting' }} →
          {{ row.to | day }}
        </mat-checkbox>
      }
      @if (view.offers.length > 1) {
        <button type="button" class="all" (click)="takeAll()">take all {{ view.offers.length }}</button>
      }
      @if (accepted().length > 0) {
        <button type="button" class="all" (click)="accepted.set([])">leave all free</button>
      }
    }
    <ng-template #mover let-row>
      <div class="row">
        <b>
          <a [routerLink]="['/orders', row.order]" [queryParams]="{ at: row.line }">{{ row.number }}/{{ row.lineNo }}</a>
          {{ row.own ? 'this order' : row.customer }}
        </b>
        @if (taken().has(row.line)) {
          <button type="button" class="all" (click)="take(row.line, false)">leave it</button>
        }
        @for (part of row.moves; track $index) {
          <div>
            {{ part.quantity | amount }} {{ row.item }}: {{ part.from ? (part.from | day) : 'waiting' }} →
            <b [class]="tone(part)">{{ part.to ? (part.to | day) : 'waiting' }}, {{ move(part) }}</b>
          </div>
        }
        @if (row.instead) {
          <div class="small">if those before leave it</div>
        }
        <div class="quiet small">
          {{ row.value | amount }} EUR, {{ row.told ? 'was told a day' : 'not told a day yet' }}{{ row.own ? '' : ', ' + row.phone }}
        </div>
        @if (row.told || row.from === null) {
          <q>{{ row.say }}</q>
        }
      </div>
    </ng-template>
  `,
  styles: `
    p {
      margin: 8px 0;
    }
    .sum {
      font-weight: 600;
    }
    .row {
      padding: 6px 0;
      border-bottom: 1px solid var(--hairline);
    }
    q {
      display: block;
      margin-top: 3px;
      padding-left: 10px;
      border-left: 2px solid var(--act);
    }
    .late {
      color: var(--late);
    }
    .open {
      color: var(--open);
    }
    .good {
      color: var(--covered);
    }
    mat-checkbox {
      display: block;
      margin: 2px 0 2px -8px;
    }
    .all {
      all: unset;
      cursor: pointer;
      color: var(--act);
      font-weight: 600;
      margin-right: 14px;
    }
    .all:focus-visible {
      outline: 2px solid var(--act);
      outline-offset: 1px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class Ripple {
  readonly ripple = input.required<RippleView>();
  /** The lines whose offers are taken. */
  readonly accepted = model<readonly number[]>([]);

  protected readonly words = computed(() => rippleInWords(this.ripple()));
  protected readonly taken = computed(() => new Set(this.accepted()));
  protected readonly move = moveInWords;
  protected readonly tone = toneOf;

  protected take(line: number, yes: boolean): void {
    this.accepted.update((lines) => (yes ? [...lines, line] : lines.filter((other) => other !== line)));
  }

  protected takeAll(): void {
    this.accepted.update((lines) => [...new Set([...lines, ...this.ripple().offers.map((row) => row.line)])]);
  }
}
