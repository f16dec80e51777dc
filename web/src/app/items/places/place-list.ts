import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { stockRoutes, type StockPlace } from '@nockwright/contract/items';
import { unitName } from '@nockwright/core/units';
import { catchError, combineLatest, debounceTime, EMPTY, switchMap } from 'rxjs';
import { Session } from '../../access';
import { Api } from '../../api';
import { Live } from '../../live';
import {
  addressWords,
  amountInWords,
  AmountPipe,
  DayPipe,
  Keys,
  ListCell,
  ListChoice,
  ListPage,
  Sheet,
  UnitPipe,
  wordOf,
  type Choice,
  type ListColumn,
} from '../../paper';
import { Places } from '../../supply';
import { CountForm } from '../count-form';
import { BinForm } from './bin-form';
import { LotForm } from './lot-form';
import { MoveForm } from './move-form';

const ONLY = [
  ['all', 'all stock'],
  ['quarantine', 'in quarantine'],
  ['expiring', 'expires soon'],
  ['nowhere', 'in no bin'],
] as const;

type Form = 'move' | 'quarantine' | 'release' | 'count' | 'lot' | 'bin';

const statusOf = ({ status, expired }: StockPlace) => (status === 'quarantine' ? 'quarantine' : expired ? 'expired' : 'available');
const placeOf = ({ warehouse, bin }: StockPlace) => `${warehouse} ${bin || 'no bin'}`;

const COLUMNS: readonly ListColumn<StockPlace>[] = [
  { id: 'item', name: 'Item', text: (row) => row.item, sort: (row) => row.item },
  { id: 'place', name: 'Place', text: placeOf, sort: placeOf },
  { id: 'lot', name: 'Lot', text: (row) => row.lot, sort: (row) => row.lot || null },
  { id: 'expires', name: 'Expires', text: (row) => row.expires ?? '', sort: (row) => row.expires, from: 620 },
  { id: 'status', name: 'Status', text: statusOf, sort: statusOf },
  {
    id: 'quantity',
    name: 'Quantity',
    figure: true,
    text: (row) => `${amountInWords(row.quantity)} ${unitName(row.unit, row.quantity)}`,
    sort: (row) => Number(row.quantity),
  },
];

/** What stands where: by warehouse, bin, lot and status; moved, counted, put into quarantine and out of it. */
@Component({
  selector: 'nock-place-list',
  imports: [RouterLink, MatButton, AmountPipe, DayPipe, UnitPipe, ListCell, ListChoice, ListPage, Sheet, BinForm, CountForm, LotForm, MoveForm],
  template: `
    <nock-sheet>
      <ng-container sheet>
        <nock-list
          heading="Stock"
          what="stock"
          label="Stock by place"
          hint="filter by item, bin, lot"
          [q]="q()"
          [columns]="columns"
          [rows]="rows()"
          [key]="idOf"
          [explains]="true"
          [current]="place()?.id ?? null"
          [none]="fault() || (loaded() ? 'Nothing stands here.' : 'Fetching the stock …')"
          (looked)="mark($event)"
          (opened)="mark($event)"
        >
          <nock-list-choice which what="Warehouse" [choices]="places()" [chosen]="warehouse() ?? ''" (choose)="go({ warehouse: $event })" />
          <nock-list-choice which what="Which stock" [choices]="choices" [chosen]="chosen()" (choose)="go({ only: $event })" />
          <a beside routerLink="/items">By item</a>
          <ng-template nockCell="item" [nockCellOf]="rows()" let-row>
            <a class="code" [routerLink]="['/items', row.item]" tabindex="-1">{{ row.item }}</a>
            <span class="small quiet description">{{ row.description }}</span>
          </ng-template>
          <ng-template nockCell="expires" [nockCellOf]="rows()" let-row>
            <span [class.open]="row.expired">{{ row.expires ? (row.expires | day) : '' }}{{ row.expired ? ', expired' : '' }}</span>
          </ng-template>
          <ng-template nockCell="status" [nockCellOf]="rows()" let-row>
            <span [class.held]="row.status === 'quarantine' || row.expired">{{ statusOf(row) }}</span>
          </ng-template>
        </nock-list>
      </ng-container>
      <ng-container gloss>
        @if (form() === 'bin') {
          <nock-bin-form [warehouse]="place()?.warehouse ?? warehouse() ?? ''" (closed)="form.set(null)" />
        } @else if (place()) {
          @let row = place()!;
          @switch (form()) {
            @case ('count') {
              <nock-count-form [item]="row.item" [pool]="poolOf(row)" [place]="row.id" (closed)="form.set(null)" />
            }
            @case ('lot') {
              <nock-lot-form [place]="row" (closed)="form.set(null)" />
            }
            @case ('move') {
              <nock-move-form [place]="row" kind="move" (closed)="form.set(null)" />
            }
            @case ('quarantine') {
              <nock-move-form [place]="row" kind="quarantine" (closed)="form.set(null)" />
            }
            @case ('release') {
              <nock-move-form [place]="row" kind="release" (closed)="form.set(null)" />
            }
            @default {
              <h2>{{ row.item }}</h2>
              <p>{{ row.description }}</p>
              <p>
                <b>{{ row.quantity | amount }}</b> {{ row.unit | unit: row.quantity }} in {{ row.bin ? 'bin ' + row.bin : 'no bin' }} at {{ row.warehouse
                }}{{ row.lot ? ', lot ' + row.lot : '' }}.
              </p>
              <p class="quiet">
                {{
                  row.status === 'quarantine'
                    ? 'In the house and nobody’s: it cannot be promised until it is released.'
                    : row.expired
                      ? 'Expired: it is promised to nobody and cannot be shipped. Put it into quarantine, or correct the day (L).'
                      : 'What expires first is shipped first.'
                }}
              </p>
            }
          }
        } @else {
          <h2>Stock by place</h2>
          <p class="quiet">Go to a row with ↓: it can be moved, counted, put into quarantine, and its lot corrected.</p>
        }
      </ng-container>
      <ng-container acts>
        @if (mayMove()) {
          <button mat-button type="button" [disabled]="!place()" (click)="start('move')">Move to another bin <kbd>M</kbd></button>
          @if (place()?.status === 'quarantine') {
            <button mat-button type="button" [disabled]="!maySell()" (click)="start('release')">Release from quarantine <kbd>Q</kbd></button>
          } @else {
            <button mat-button type="button" [disabled]="!place()" (click)="start('quarantine')">Into quarantine <kbd>Q</kbd></button>
          }
          @if (maySell()) {
            <button mat-button type="button" [disabled]="!place()" (click)="start('count')">Correct the count <kbd>C</kbd></button>
            <button mat-button type="button" [disabled]="!place()?.lot" (click)="start('lot')">Correct the lot <kbd>L</kbd></button>
          }
          <button mat-button type="button" (click)="start('bin')">Bins <kbd>B</kbd></button>
        }
      </ng-container>
    </nock-sheet>
  `,
  styles: `
    :host {
      display: block;
      height: 100%;
      min-height: 0;
    }
    .description {
      margin-left: 8px;
    }
    .held {
      color: var(--late);
      font-weight: 600;
    }
    .open {
      color: var(--open);
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class PlaceList {
  private readonly session = inject(Session);
  private readonly warehouses = inject(Places).warehouses;
  protected readonly maySell = this.session.maySell;
  protected readonly mayMove = this.session.mayMove;
  protected readonly go = addressWords();
  readonly q = input<string>();
  readonly warehouse = input<string>();
  readonly only = input<string>();
  protected readonly columns = COLUMNS;
  protected readonly idOf = (row: StockPlace) => row.id;
  protected readonly statusOf = statusOf;
  protected readonly choices = ONLY;
  protected readonly chosen = computed(() => wordOf(ONLY, this.only()));
  protected readonly places = computed((): readonly Choice[] => [
    ['', 'all warehouses'],
    ...this.warehouses().map((place): Choice => [place.code, place.name]),
  ]);
  protected readonly rows = signal<readonly StockPlace[]>([]);
  protected readonly loaded = signal(false);
  protected readonly fault = signal('');
  protected readonly at = signal<number | null>(null);
  protected readonly form = signal<Form | null>(null);
  protected readonly place = computed(() => this.rows().find((row) => row.id === this.at()) ?? null);

  constructor() {
    const api = inject(Api);
    const live = inject(Live);
    combineLatest([toObservable(this.q), toObservable(this.warehouse), toObservable(this.chosen)])
      .pipe(
        debounceTime(80),
        switchMap(([search, warehouse, only]) =>
          live.kept(
            () =>
              api
                .call(stockRoutes.listPlaces, { query: { only, ...(search ? { search } : {}), ...(warehouse ? { warehouse } : {}) } })
                .pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
            (topic) => topic.startsWith('item:'),
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((rows) => {
        this.rows.set(rows);
        this.loaded.set(true);
      });
    inject(Keys).use([
      { key: 'M', does: 'put it into another bin', run: () => this.start('move') },
      { key: 'Q', does: 'into quarantine, or out of it', run: () => this.start(this.place()?.status === 'quarantine' ? 'release' : 'quarantine') },
      { key: 'C', does: 'correct what was counted at this place', run: () => this.start('count') },
      { key: 'L', does: 'correct the lot: its last day, its name', run: () => this.start('lot') },
      { key: 'B', does: 'bins of the warehouse', run: () => this.start('bin') },
    ]);
  }

  /** Another row ends what was begun for the one before. */
  protected mark(row: StockPlace): void {
    if (row.id === this.at()) return;
    this.at.set(row.id);
    this.form.set(null);
  }

  protected start(form: Form): boolean {
    if (!this.mayMove() || (form !== 'bin' && !this.place())) return false;
    if ((form === 'count' || form === 'release' || form === 'lot') && !this.maySell()) return false;
    if (form === 'lot' && !this.place()?.lot) return false;
    this.form.set(form);
    return true;
  }

  protected poolOf(row: StockPlace): { readonly warehouse: string; readonly name: string; readonly onHand: string } {
    return { warehouse: row.warehouse, name: `${row.warehouse}${row.bin ? ', ' + row.bin : ''}${row.lot ? ', lot ' + row.lot : ''}`, onHand: row.quantity };
  }
}
