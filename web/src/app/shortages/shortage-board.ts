import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatPseudoCheckbox } from '@angular/material/core';
import { Router, RouterLink } from '@angular/router';
import type { ShortageRow } from '@nockwright/contract/shortages';
import { Session } from '../access';
import { AmountPipe, DayPipe, FilterField, Keys, ListChoice, PricePipe, rowKey, Sheet, StateMark, UnitPipe, wordOf, type CoverState } from '../paper';
import { RulerHead, RulerRow, rulerScale } from '../ruler';
import { GROUP_CHOICES, groupsOf, type Group } from './board-groups';
import { BoardStore, PAGE } from './board-store';
import { PlanGloss } from './plan-gloss';
import { lateWords } from './route-words';

const RULER = 170;

/** What is owed and has no cover, or late cover: grouped, filtered as typed, chosen, and routed in one act. */
@Component({
  selector: 'nock-shortage-board',
  imports: [
    FilterField,
    ListChoice,
    MatButton,
    MatPseudoCheckbox,
    RouterLink,
    AmountPipe,
    DayPipe,
    PricePipe,
    UnitPipe,
    StateMark,
    RulerHead,
    RulerRow,
    Sheet,
    PlanGloss,
  ],
  providers: [BoardStore],
  template: `
    <nock-sheet>
      <ng-container sheet>
        <div class="list-head">
          <h1>Shortages</h1>
          <nock-filter what="shortages" [text]="q() ?? ''" (typed)="go({ q: $event || null })" hint="filter by item, order, customer, supplier" />
          <nock-list-choice what="How they are grouped" [choices]="groupings" [chosen]="grouped()" (choose)="go({ by: $event })" />
          @if (only(); as only) {
            <button mat-stroked-button type="button" (click)="go({ lines: null })">Only {{ only.size }}: show all</button>
          }
          <p class="quiet" role="status">
            {{ store.short().count + '' | amount }} {{ store.short().count === 1 ? 'line' : 'lines' }}, {{ store.short().value | amount }} EUR at stake
          </p>
        </div>
        <table class="ruled" aria-label="Shortages">
          <thead>
            <tr>
              <th class="pick"><span class="visually-hidden">Chosen</span></th>
              <th>Item</th>
              <th>Order</th>
              <th class="figure">Short</th>
              <th class="figure">Worth</th>
              <th>Asked</th>
              <th class="ruler"><nock-ruler-head [scale]="scale()" [today]="today()" /><span class="visually-hidden">Days</span></th>
              <th>State</th>
            </tr>
          </thead>
          <tbody>
            @for (group of groups(); track group.name) {
              @if (group.name) {
                <tr class="group" tabindex="0" (click)="store.turn(group.lines)" (keydown)="groupKey($event, group)">
                  <td class="pick">
                    <mat-pseudo-checkbox [state]="isChosen(group.lines) ? 'checked' : 'unchecked'" />
                  </td>
                  <td colspan="3">{{ group.name }}</td>
                  <td class="figure">{{ group.value | price }}</td>
                  <td colspan="3" class="quiet">{{ group.lines.length }} {{ group.lines.length === 1 ? 'line' : 'lines' }}</td>
                </tr>
              }
              @for (row of group.rows; track row.line + row.kind + row.promisedDay + row.dropShip) {
                <tr tabindex="0" [class.chosen]="store.chosen().has(row.line)" (click)="open(row)" (keydown)="key($event, row)">
                  <td class="pick" (click)="$event.stopPropagation(); store.turn([row.line])">
                    <mat-pseudo-checkbox [state]="store.chosen().has(row.line) ? 'checked' : 'unchecked'" />
                  </td>
                  <td class="goods">
                    <a class="code" [routerLink]="['/items', row.item]" tabindex="-1" (click)="$event.stopPropagation()">{{ row.item }}</a>
                    <span class="quiet"> {{ row.dropShip ? 'drop ship' : row.warehouse }}</span>
                    <div class="small quiet" [title]="row.description">{{ row.description }}</div>
                  </td>
                  <td class="whose">
                    <span class="code">{{ row.number }}/{{ row.lineNo }}</span>
                    <div class="small" [title]="row.customer">{{ row.customer }}</div>
                  </td>
                  <td class="figure">
                    {{ row.quantity | amount }} <span class="quiet small">{{ row.unit | unit: row.quantity }}</span>
                  </td>
                  <td class="figure">{{ row.value | amount }}</td>
                  <td>{{ row.requested | day }}</td>
                  <td class="ruler">
                    <nock-ruler-row
                      [scale]="scale()"
                      [requested]="row.requested"
                      [schedule]="daysOf(row)"
                      [uncovered]="row.possibleDay ? '0' : row.quantity"
                      [released]="row.kind === 'waiting'"
                    />
                  </td>
                  <td>
                    <nock-state [state]="stateOf(row)" [words]="words(row)" />
                    <div class="small quiet">
                      @if (row.asked) {
                        the customer is asked
                      } @else if (row.kind === 'waiting') {
                        {{ row.possibleDay ? 'could leave ' + (row.possibleDay | day) : 'no supply known' }}
                      } @else {
                        {{ row.dropShip ? 'told' : 'promised' }} {{ row.promisedDay | day }}
                      }
                    </div>
                  </td>
                </tr>
              }
            } @empty {
              <tr>
                <td colspan="8" class="quiet none">
                  {{ store.fault() || (store.loaded() ? 'Nothing is short. Everything owed has cover in time.' : 'Looking for shortages …') }}
                </td>
              </tr>
            }
          </tbody>
        </table>
        @if (store.short().count > store.short().rows.length) {
          <button mat-button type="button" (click)="most.set(most() + page)">Show more of the {{ store.short().count + '' | amount }}</button>
        }
      </ng-container>
      <nock-plan-gloss gloss />
      <ng-container acts>
        @if (maySell()) {
          <button mat-flat-button type="button" [disabled]="store.ready().length === 0 || store.progress() !== null" (click)="store.route()">
            Route {{ store.ready().length || '' }} {{ store.ready().length === 1 ? 'line' : 'lines' }} <kbd>Ctrl Enter</kbd>
          </button>
        }
        <button mat-button type="button" (click)="all()">Choose all <kbd>A</kbd></button>
        @if (store.chosen().size > 0) {
          <button mat-button type="button" (click)="store.choose([])">None <kbd>Esc</kbd></button>
        }
        <span class="open" role="alert">{{ store.fault() }}</span>
      </ng-container>
    </nock-sheet>
  `,
  styles: `
    :host {
      display: block;
      height: 100%;
      min-height: 0;
    }
    td {
      height: 46px;
      white-space: nowrap;
      overflow: hidden;
      text-overflow: ellipsis;
      max-width: 190px;
    }
    /* Long names give way: how late it is stands at the end of the row. */
    .goods,
    .whose {
      max-width: 160px;
    }
    td .small {
      overflow: hidden;
      text-overflow: ellipsis;
    }
    td.figure .small {
      font-family: 'Atkinson Hyperlegible Next Variable', sans-serif;
    }
    .pick {
      width: 24px;
      padding: 0 4px;
      cursor: pointer;
    }
    .group td {
      height: 34px;
      font-weight: 600;
      border-bottom: 1px solid var(--rule);
      cursor: pointer;
    }
    .chosen td {
      background: var(--paper-marked);
    }
    .open {
      color: var(--open);
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ShortageBoard {
  protected readonly store = inject(BoardStore);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  protected readonly maySell = this.session.maySell;
  readonly q = input<string>();
  readonly by = input<string>();
  /** Only these lines, chosen from the start: whom a change of supply hurts. */
  readonly lines = input<string>();

  protected readonly page = PAGE;
  protected readonly groupings = GROUP_CHOICES;
  protected readonly grouped = computed(() => wordOf(GROUP_CHOICES, this.by()));
  protected readonly most = signal(PAGE);
  protected readonly today = computed(() => this.session.today());
  protected readonly only = computed(() => (this.lines() ? new Set(this.lines()!.split(',').map(Number)) : null));
  protected readonly groups = computed((): readonly Group[] => groupsOf(this.store.short().rows, this.grouped(), this.today()));
  protected readonly scale = computed(() =>
    rulerScale(
      this.today(),
      this.store.short().rows.flatMap((row) => [row.requested, ...(row.possibleDay ? [row.possibleDay] : [])]),
      RULER,
    ),
  );

  constructor() {
    let begun: string | undefined;
    effect(() => this.store.filter.set({ q: this.q() ?? '', only: this.lines() ?? '', most: this.most() }));
    effect(() => {
      const only = this.only();
      if (only === null || !this.store.loaded() || begun === this.lines()) return;
      const known = this.store.short().lines;
      // What was looked at before may still stand here.
      if (!known.every((line) => only.has(line))) return;
      begun = this.lines();
      untracked(() => this.store.choose(known));
    });
    inject(Keys).use([
      { key: 'A', does: 'choose all that the filter finds', run: () => this.all() },
      { key: 'Ctrl+Enter', does: 'route the lines that are chosen', run: () => this.maySell() && this.store.route() },
      { key: 'Escape', does: 'choose none', run: () => this.leave() },
    ]);
  }

  protected go(queryParams: Readonly<Record<string, string | null>>): void {
    void this.router.navigate([], { queryParams, queryParamsHandling: 'merge', replaceUrl: true });
  }

  protected open(row: ShortageRow): void {
    void this.router.navigate(['/orders', row.order], { queryParams: { at: row.line } });
  }

  protected key(event: KeyboardEvent, row: ShortageRow): void {
    if (event.key === ' ' && event.target === event.currentTarget) {
      event.preventDefault();
      this.store.turn([row.line]);
    } else rowKey(event, () => this.open(row));
  }

  protected groupKey(event: KeyboardEvent, group: Group): void {
    if (event.key === ' ') {
      event.preventDefault();
      this.store.turn(group.lines);
    } else rowKey(event, () => this.store.turn(group.lines));
  }

  protected isChosen(lines: readonly number[]): boolean {
    return lines.every((line) => this.store.chosen().has(line));
  }

  protected all(): void {
    this.store.choose(this.store.short().lines);
  }

  private leave(): boolean {
    if (this.store.outcome()) this.store.outcome.set(null);
    else if (this.store.chosen().size > 0) this.store.choose([]);
    else return false;
    return true;
  }

  protected stateOf(row: ShortageRow): CoverState {
    return row.kind === 'late' || (row.kind === 'waiting' && row.possibleDay !== null) ? 'late' : 'uncovered';
  }

  protected words(row: ShortageRow): string {
    if (row.kind === 'broken') return 'lost its supply';
    if (row.kind === 'waiting') return row.possibleDay ? 'can be promised' : 'waiting';
    return lateWords(row.daysLate ?? 0);
  }

  protected daysOf(row: ShortageRow) {
    return row.possibleDay
      ? [{ day: row.possibleDay, quantity: row.quantity, kept: row.kind !== 'waiting', dropShip: row.dropShip, arrives: null, broken: false }]
      : [];
  }
}
