import { ChangeDetectionStrategy, Component, computed, inject, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { Router, RouterLink } from '@angular/router';
import { shortageRoutes, type ShortageRow } from '@nockwright/contract/shortages';
import { catchError, EMPTY } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';
import { Live } from '../live';
import { AmountPipe, DayPipe, rowKey, StateMark, UnitPipe, type CoverState, FilterField } from '../paper';
import { RulerHead, RulerRow, rulerScale } from '../ruler';

/** What is owed and has no cover, or late cover; most money first. The way out is chosen on the order. */
@Component({
  selector: 'nock-shortage-list',
  imports: [FilterField, RouterLink, AmountPipe, DayPipe, UnitPipe, StateMark, RulerHead, RulerRow],
  template: `
    <div class="list-head">
      <h1>Shortages</h1>
      <nock-filter what="shortages" [text]="text()" (typed)="text.set($event)" hint="filter by item, order, customer" />
      <p class="quiet">{{ shown().length }} lines, {{ value() | amount }} EUR at stake</p>
    </div>
    <table class="ruled" aria-label="Shortages">
      <thead>
        <tr>
          <th>Item</th>
          <th>Order</th>
          <th>Customer</th>
          <th class="figure">Short</th>
          <th class="figure">Worth</th>
          <th>Asked</th>
          <th class="ruler"><nock-ruler-head [scale]="scale()" [today]="today()" /><span class="visually-hidden">Days</span></th>
          <th>State</th>
        </tr>
      </thead>
      <tbody>
        @for (row of shown(); track row.line + row.kind + row.promisedDay) {
          <tr tabindex="0" (click)="open(row)" (keydown)="key($event, row)">
            <td>
              <a class="code" [routerLink]="['/items', row.item]" tabindex="-1" (click)="$event.stopPropagation()">{{ row.item }}</a>
              <div class="small quiet">{{ row.description }}, {{ row.warehouse }}</div>
            </td>
            <td class="code">{{ row.number }}/{{ row.lineNo }}</td>
            <td>{{ row.customer }}</td>
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
                @switch (row.kind) {
                  @case ('waiting') {
                    {{ row.possibleDay ? 'could leave ' + (row.possibleDay | day) : 'no supply known' }}
                  }
                  @case ('late') {
                    promised {{ row.promisedDay | day }}
                  }
                  @case ('broken') {
                    promised {{ row.promisedDay | day }}
                  }
                }
              </div>
            </td>
          </tr>
        } @empty {
          <tr>
            <td colspan="8" class="quiet none">
              {{ fault() || (loaded() ? 'Nothing is short. Everything owed has cover in time.' : 'Looking for shortages …') }}
            </td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styles: `
    td {
      height: 46px;
      white-space: nowrap;
      overflow: hidden;
      text-overflow: ellipsis;
      max-width: 215px;
    }
    td.figure .small {
      font-family: 'Atkinson Hyperlegible Next Variable', sans-serif;
    }
  `,
  host: { class: 'list-page' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ShortageList {
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  protected readonly text = signal('');
  protected readonly rows = signal<readonly ShortageRow[]>([]);
  protected readonly loaded = signal(false);
  protected readonly fault = signal('');
  protected readonly today = computed(() => this.session.today());
  protected readonly shown = computed(() => {
    const words = this.text().toLowerCase().split(/\s+/).filter(Boolean);
    return this.rows().filter((row) =>
      words.every((word) => `${row.item} ${row.description} ${row.number} ${row.customer} ${row.warehouse}`.toLowerCase().includes(word)),
    );
  });
  protected readonly value = computed(() =>
    this.shown()
      .reduce((sum, row) => sum + Number(row.value), 0)
      .toFixed(2),
  );
  protected readonly scale = computed(() =>
    rulerScale(
      this.today(),
      this.rows().flatMap((row) => [row.requested, ...(row.possibleDay ? [row.possibleDay] : [])]),
      284,
    ),
  );

  constructor() {
    const api = inject(Api);
    inject(Live)
      .kept(
        () =>
          api.call(shortageRoutes.listShortages).pipe(
            catchError((error: Error) => {
              this.fault.set(error.message);
              return EMPTY;
            }),
          ),
        (topic) => topic.startsWith('order:') || topic.startsWith('item:'),
      )
      .pipe(takeUntilDestroyed())
      .subscribe((rows) => {
        this.rows.set(rows);
        this.loaded.set(true);
      });
  }

  protected open(row: ShortageRow): void {
    void this.router.navigate(['/orders', row.order], { queryParams: { at: row.line } });
  }

  protected key(event: KeyboardEvent, row: ShortageRow): void {
    rowKey(event, () => this.open(row));
  }

  protected stateOf(row: ShortageRow): CoverState {
    return row.kind === 'late' || (row.kind === 'waiting' && row.possibleDay !== null) ? 'late' : 'uncovered';
  }

  protected words(row: ShortageRow): string {
    if (row.kind === 'broken') return 'lost its supply';
    if (row.kind === 'waiting') return row.possibleDay ? 'can be promised' : 'waiting';
    return `${row.daysLate} days late`;
  }

  protected daysOf(row: ShortageRow) {
    return row.possibleDay
      ? [{ day: row.possibleDay, quantity: row.quantity, kept: row.kind !== 'waiting', dropShip: false, arrives: null, broken: false }]
      : [];
  }
}
