import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { supplyRoutes, type InsideRow } from '@nockwright/contract/supply';
import { catchError, EMPTY, switchMap } from 'rxjs';
import { Session } from '../../access';
import { Api } from '../../api';
import { Live } from '../../live';
import { addressWords, DayPipe, ListChoice, rowKey, wordOf } from '../../paper';
import { SupplyNav } from '../supply-nav';

const STATES = [
  ['open', 'under way'],
  ['all', 'all'],
] as const;
const STATE_NAMES = { open: 'set aside', shipped: 'on its way', closed: 'done', cancelled: 'cancelled' } as const;

/** Goods that move between our warehouses or are put together in them, what is due first. */
@Component({
  selector: 'nock-inside-list',
  imports: [RouterLink, MatButton, DayPipe, ListChoice, SupplyNav],
  template: `
    <div class="list-head">
      <h1>Transfers and assemblies</h1>
      <nock-list-choice what="Which of them" [choices]="choices" [chosen]="which()" (choose)="go({ state: $event })" />
      @if (maySell()) {
        <a mat-flat-button routerLink="/supply/transfers/new">New transfer</a>
        <a mat-stroked-button routerLink="/supply/assemblies/new">New assembly</a>
      }
    </div>
    <nock-supply-nav />
    <table class="ruled" aria-label="Transfers and assemblies">
      <thead>
        <tr>
          <th>Number</th>
          <th>What</th>
          <th>State</th>
          <th>Expected</th>
        </tr>
      </thead>
      <tbody>
        @for (row of rows(); track row.kind + row.id) {
          <tr tabindex="0" (click)="open(row)" (keydown)="key($event, row)">
            <td>
              <a class="code" [routerLink]="linkOf(row)" tabindex="-1">{{ row.number }}</a>
            </td>
            <td>{{ row.kind === 'transfer' ? row.what + ', ' + row.lines + (row.lines === 1 ? ' line' : ' lines') : row.what }}</td>
            <td>{{ names[row.state] }}</td>
            <td>
              {{ row.expectedDay | day }}
              @if (row.expectedDay < today() && (row.state === 'open' || row.state === 'shipped')) {
                <b class="late">overdue</b>
              }
            </td>
          </tr>
        } @empty {
          <tr>
            <td colspan="4" class="none quiet">{{ fault() || (loaded() ? 'No transfers and no assemblies.' : 'Fetching them …') }}</td>
          </tr>
        }
      </tbody>
    </table>
  `,
  styles: `
    tbody tr {
      cursor: pointer;
      height: 34px;
    }
    .late {
      color: var(--late);
      margin-left: 6px;
    }
  `,
  host: { class: 'list-page' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class InsideList {
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  protected readonly today = computed(() => this.session.today());
  protected readonly maySell = this.session.maySell;
  protected readonly go = addressWords();
  readonly state = input<string>();
  protected readonly choices = STATES;
  protected readonly names = STATE_NAMES;
  protected readonly which = computed(() => wordOf(STATES, this.state()));
  protected readonly rows = signal<readonly InsideRow[]>([]);
  protected readonly loaded = signal(false);
  protected readonly fault = signal('');

  constructor() {
    const api = inject(Api);
    const live = inject(Live);
    toObservable(this.which)
      .pipe(
        switchMap((state) =>
          live.kept(
            () => api.call(supplyRoutes.listInside, { query: { state } }).pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
            (topic) => topic.startsWith('transfer:') || topic.startsWith('assembly:'),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((rows) => {
        this.rows.set(rows);
        this.loaded.set(true);
      });
  }

  protected linkOf({ kind, id }: InsideRow): unknown[] {
    return ['/supply', kind === 'transfer' ? 'transfers' : 'assemblies', id];
  }

  protected open(row: InsideRow): void {
    void this.router.navigate(this.linkOf(row));
  }

  protected key(event: KeyboardEvent, row: InsideRow): void {
    rowKey(event, () => this.open(row));
  }
}
