import { ChangeDetectionStrategy, Component, computed, inject, input, signal, viewChild, afterNextRender } from '@angular/core';
import { Router, RouterLink } from '@angular/router';
import { supplyRoutes, type ExpectedRow, type Scanned } from '@nockwright/contract/supply';
import { Api } from '../../api';
import { keptList } from '../../live';
import { addressWords, DayPipe, ListChoice, rowKey, type Choice } from '../../paper';
import { Places } from '../places';
import { ScanField } from './scan-field';

/** What is due at a warehouse; a scan finds what it belongs to. Works on a phone, at the dock. */
@Component({
  selector: 'nock-receiving-list',
  imports: [RouterLink, DayPipe, ListChoice, ScanField],
  template: `
    <header>
      <h1>Receiving</h1>
      <nock-list-choice what="Warehouse" [choices]="places()" [chosen]="warehouse() ?? ''" (choose)="go({ warehouse: $event })" />
    </header>
    <nock-scan-field [warehouse]="warehouse() ?? ''" (scanned)="scan($event)" />
    @if (choices(); as found) {
      <h2>{{ found.description || 'It' }} is expected from</h2>
      <ul>
        @for (row of found.awaited; track row.kind + row.id + row.line) {
          <li>
            <a [routerLink]="pathOf(row)" [queryParams]="words(found, row)"
              ><span class="code">{{ row.number }}</span> {{ row.from }}, {{ row.open }} expected {{ row.expectedDay | day }}</a
            >
          </li>
        }
      </ul>
    }
    <ul aria-label="Expected">
      @for (row of rows(); track row.kind + row.id) {
        <li tabindex="0" (click)="open(row)" (keydown)="key($event, row)">
          <div>
            <a class="code" [routerLink]="pathOf(row)" tabindex="-1">{{ row.number }}</a>&ngsp;<b>{{ row.from }}</b>
            <div class="small quiet items">{{ row.items }}</div>
          </div>
          <div class="day">
            {{ row.expectedDay | day }}
            @if (row.overdue) {
              <b class="late">overdue</b>
            }
            <div class="small quiet">{{ row.kind === 'transfer' ? 'transfer' : '' }} {{ warehouse() ? '' : 'into ' + row.warehouse }}</div>
          </div>
        </li>
      } @empty {
        <li class="quiet">{{ fault() || 'Nothing is expected here.' }}</li>
      }
    </ul>
  `,
  styles: `
    :host {
      display: block;
      max-width: 720px;
      padding: 14px 16px;
    }
    header {
      display: flex;
      align-items: center;
      justify-content: space-between;
      margin-bottom: 8px;
    }
    ul {
      list-style: none;
      margin: 6px 0 0;
      padding: 0;
    }
    li {
      display: grid;
      grid-template-columns: minmax(0, 1fr) auto;
      gap: 12px;
      padding: 10px 4px;
      min-height: 44px;
      border-bottom: 1px solid var(--hairline);
    }
    li[tabindex] {
      cursor: pointer;
    }
    .items {
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .day {
      text-align: right;
      white-space: nowrap;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class ReceivingList {
  private readonly router = inject(Router);
  private readonly warehouses = inject(Places).warehouses;
  private readonly field = viewChild(ScanField);
  protected readonly go = addressWords();
  readonly warehouse = input<string>();
  protected readonly places = computed((): readonly Choice[] => [['', 'all warehouses'], ...this.warehouses().map((row) => [row.code, row.name] as const)]);
  protected readonly rows = signal<readonly ExpectedRow[]>([]);
  protected readonly fault = signal('');
  /** What was scanned, where it is expected from more than one. */
  protected readonly choices = signal<Scanned | null>(null);

  constructor() {
    const api = inject(Api);
    keptList({
      q: signal(undefined),
      state: computed(() => this.warehouse() ?? ''),
      load: ({ state }) => api.call(supplyRoutes.listExpected, { query: state === '' ? {} : { warehouse: state } }),
      topics: 'purchase:',
      fault: this.fault,
    }).subscribe((rows) => this.rows.set(rows));
    afterNextRender(() => this.field()?.focus());
  }

  protected pathOf({ kind, id }: Pick<ExpectedRow, 'kind' | 'id'>): readonly (string | number)[] {
    return kind === 'transfer' ? ['/supply/transfers', id] : ['/receiving', id];
  }

  protected words({ lot, expires, count, serial }: Scanned, { line }: Scanned['awaited'][number]) {
    return line === null ? {} : { line, ...(lot ? { lot } : {}), ...(expires ? { expires } : {}), ...(count ? { count } : {}), ...(serial ? { serial } : {}) };
  }

  protected scan(scan: Scanned): void {
    const documents = new Set(scan.awaited.map((row) => `${row.kind}/${row.id}`));
    if (documents.size === 0) return this.field()?.refuse(`${scan.item ?? 'That'} is not expected here.`);
    if (documents.size > 1) return this.choices.set(scan);
    const [row] = scan.awaited;
    void this.router.navigate([...this.pathOf(row!)], { queryParams: this.words(scan, row!) });
  }

  protected open(row: ExpectedRow): void {
    void this.router.navigate([...this.pathOf(row)]);
  }

  protected key(event: KeyboardEvent, row: ExpectedRow): void {
    rowKey(event, () => this.open(row));
  }
}
