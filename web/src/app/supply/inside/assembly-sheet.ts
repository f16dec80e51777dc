import { ChangeDetectionStrategy, Component, computed, effect, inject, input, linkedSignal, numberAttribute, signal, untracked } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { RouterLink } from '@angular/router';
import { supplyRoutes, type AssemblyView } from '@nockwright/contract/supply';
import { compareDecimal } from '@nockwright/core/money';
import { Session } from '../../access';
import { Api } from '../../api';
import { AmountPipe, DayPipe, History, Keys, QuantityField, Sheet, TextArea, UnitPipe } from '../../paper';
import { AssemblyChange } from './assembly-change';
import { DocumentStore } from './document-store';

/** What is put together: how many, by when, for whom, and the components that are set aside for it. */
@Component({
  selector: 'nock-assembly-sheet',
  imports: [RouterLink, MatButton, AmountPipe, DayPipe, History, UnitPipe, QuantityField, Sheet, TextArea, AssemblyChange],
  providers: [DocumentStore],
  template: `
    @if (store.document(); as assembly) {
      <nock-sheet>
        <ng-container sheet>
          <h1>
            <span class="code">{{ assembly.number }}</span> {{ assembly.quantity | amount }} {{ assembly.item }}
            <span class="quiet">{{ states[assembly.state] }}</span>
          </h1>
          <p class="quiet">
            {{ assembly.description }}, at {{ assembly.warehouse.name }}, done by {{ assembly.expectedDay | day }}. {{ assembly.built | amount }} assembled,
            {{ assembly.open | amount }} to go.
          </p>
          <table class="ruled" aria-label="Components">
            <thead>
              <tr>
                <th>Component</th>
                <th class="figure wide">For one</th>
                <th class="figure">Needed</th>
                <th class="figure">Committed</th>
                <th></th>
              </tr>
            </thead>
            <tbody>
              @for (row of assembly.components; track row.item) {
                <tr>
                  <td>
                    <a class="code" [routerLink]="['/items', row.item]">{{ row.item }}</a>
                    <div class="small quiet">{{ row.description }}</div>
                  </td>
                  <td class="figure wide">{{ row.perUnit | amount }}</td>
                  <td class="figure">
                    {{ row.needed | amount }} <span class="quiet small">{{ row.unit | unit: row.needed }}</span>
                  </td>
                  <td class="figure">{{ row.setAside | amount }}</td>
                  <td>
                    @if (isShort(row)) {
                      <span class="late">assemble first</span>
                    }
                  </td>
                </tr>
              }
            </tbody>
          </table>
        </ng-container>
        <ng-container gloss>
          @if (changing(); as kind) {
            <nock-assembly-change [assembly]="assembly" [kind]="kind" (closed)="change(null)" />
          } @else {
            <h2>Assembly {{ assembly.number }}</h2>
            @if (assembly.for; as order) {
              <p>
                For order <a [routerLink]="['/orders', order.order]">{{ order.number }}/{{ order.lineNo }}</a
                >, {{ order.customer }}: what is assembled is kept for it.
              </p>
            }
            @if (assembly.parent; as parent) {
              <p>
                Part of <a [routerLink]="['/supply/assemblies', parent.id]">{{ parent.number }}</a>: what is assembled goes into it.
              </p>
            }
            @for (part of assembly.parts; track part.id) {
              <p>
                First <a [routerLink]="['/supply/assemblies', part.id]">{{ part.number }}</a>, {{ part.item }}: {{ states[part.state] }}
              </p>
            }
            @if (assembly.state === 'open') {
              <p class="now">
                Assemble now
                <nock-quantity-field label="Assemble now" [quantity]="count()" (typed)="count.set($event)" />
              </p>
              @if (assembly.tracksSerials) {
                <nock-text-area fieldId="assembled-serials" [most]="20000" [rows]="3" [(text)]="serials">Serial numbers</nock-text-area>
              }
            }
            <h3>History</h3>
            <nock-history [rows]="store.history()" />
          }
        </ng-container>
        <ng-container acts>
          @if (changing() !== null) {
            <span class="quiet">Save or leave the change first.</span>
          } @else if (assembly.state === 'open') {
            <button mat-flat-button type="button" [disabled]="store.busy() || !ready()" (click)="build()">Assemble <kbd>Ctrl Enter</kbd></button>
          }
          @if (mayChange() && changing() === null) {
            <button mat-button type="button" (click)="change('change')">{{ assembly.parent ? 'Other day' : 'Change day or quantity' }} <kbd>D</kbd></button>
            @if (!assembly.parent) {
              <button mat-button type="button" (click)="change('end')">Cancel assembly <kbd>K</kbd></button>
            }
          }
          <a mat-button routerLink="/supply/inside">All transfers and assemblies</a>
          <span class="open" role="alert">{{ store.fault() }}</span>
        </ng-container>
      </nock-sheet>
    } @else {
      <p class="none quiet">{{ store.fault() || 'Fetching the assembly …' }}</p>
    }
  `,
  styles: `
    :host {
      display: block;
      height: 100%;
    }
    .now {
      display: flex;
      align-items: center;
      gap: 8px;
    }
    nock-quantity-field {
      width: 90px;
    }
    @media (max-width: 820px) {
      .wide,
      kbd {
        display: none;
      }
      table.ruled td,
      table.ruled th {
        padding: 6px 4px;
      }
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class AssemblySheet {
  private readonly api = inject(Api);
  protected readonly store = inject<DocumentStore<AssemblyView>>(DocumentStore);
  protected readonly maySell = inject(Session).maySell;
  readonly id = input.required({ transform: numberAttribute });

  protected readonly states = { open: 'under way', closed: 'done', cancelled: 'cancelled' } as const;
  /** What is being changed of it: its day and number, or that it is put together at all. */
  private readonly wanted = signal<'change' | 'end' | null>(null);
  protected readonly changing = computed(() => (this.mayChange() ? this.wanted() : null));
  protected readonly mayChange = computed(() => this.maySell() && this.store.document()?.state === 'open');
  private readonly open = computed(() => this.store.document()?.open ?? '');
  /** Stays as typed while the assembly is read again. */
  protected readonly count = linkedSignal(() => this.open());
  protected readonly serials = signal('');
  protected readonly ready = computed(() => /^[1-9]\d{0,8}$/.test(this.count()));

  constructor() {
    effect(() => {
      const id = this.id();
      untracked(() => this.change(null));
      this.store.open(
        `assembly:${id}`,
        () => this.api.call(supplyRoutes.readAssembly, { params: { assembly: id } }),
        () => this.api.call(supplyRoutes.assemblyHistory, { params: { assembly: id } }),
      );
    });
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'record what was assembled', run: () => this.build() },
      { key: 'D', does: 'another day for it, or fewer of it', run: () => this.mayChange() && this.change('change') },
      { key: 'K', does: 'cancel the assembly', run: () => this.mayChange() && !this.store.document()?.parent && this.change('end') },
    ]);
  }

  protected isShort(row: AssemblyView['components'][number]): boolean {
    return compareDecimal(row.setAside, row.needed) < 0;
  }

  protected build(): void {
    if (!this.ready() || this.store.document()?.state !== 'open') return;
    const [quantity, serials] = [this.count(), this.serials().trim()];
    this.store.run(
      ({ id, version }) =>
        this.api.call(supplyRoutes.buildAssembly, { params: { assembly: id }, body: { version, quantity, ...(serials ? { serials } : {}) } }),
      () => this.serials.set(''),
    );
  }

  protected change(kind: 'change' | 'end' | null): boolean {
    this.store.fault.set('');
    this.wanted.set(kind);
    return true;
  }
}
