import { ChangeDetectionStrategy, Component, computed, inject, input, signal } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { findingWords, type Finding } from '@nockwright/contract/history';
import { supplyRoutes, type MessageView } from '@nockwright/contract/supply';
import { Session } from '../../access';
import { Api } from '../../api';
import { keptList } from '../../live';
import { addressWords, DayPipe, Keys, ListCell, ListChoice, ListPage, Sheet, wordOf, type Choice, type ListColumn } from '../../paper';
import { SupplyNav } from '../supply-nav';
import { kindInWords, stateInWords } from './message-words';
import { StandInForm } from './stand-in-form';

const WHICH = [
  ['look', 'to review'],
  ['all', 'all files'],
] as const;

const COLUMNS: readonly ListColumn<MessageView>[] = [
  { id: 'supplier', name: 'Supplier', text: (row) => row.supplier.name },
  { id: 'purchase', name: 'Purchase order', text: (row) => row.purchase?.number ?? '', from: 560 },
  { id: 'what', name: 'Message', text: kindInWords },
  { id: 'day', name: 'Received or sent', text: (row) => row.at.slice(0, 10), from: 640 },
  { id: 'state', name: 'State', text: stateInWords },
];

/** What suppliers answered that somebody has to review, and all that went to them and came from them as files. */
@Component({
  selector: 'nock-message-list',
  imports: [RouterLink, MatButton, DayPipe, ListCell, ListChoice, ListPage, Sheet, StandInForm, SupplyNav],
  template: `
    <nock-sheet>
      <ng-container sheet>
        <nock-list
          heading="Supplier responses"
          what="supplier responses"
          label="Supplier responses"
          hint="filter by supplier, purchase order, item"
          [q]="q()"
          [columns]="columns"
          [rows]="rows()"
          [key]="idOf"
          [explains]="true"
          [current]="message()?.id ?? null"
          [none]="fault() || (chosen() === 'look' ? 'Nothing to review: suppliers do as they were asked.' : 'No files yet.')"
          [whole]="false"
          [more]="next() ? 'Show more' : ''"
          (further)="more()"
          (looked)="at.set($event.id)"
          (opened)="open($event)"
        >
          <nock-list-choice which what="Which supplier responses" [choices]="choices()" [chosen]="chosen()" (choose)="go({ which: $event })" />
          <nock-supply-nav below />
          <ng-template nockCell="purchase" [nockCellOf]="rows()" let-row>
            @if (row.purchase; as purchase) {
              <a class="code" [routerLink]="['/supply', purchase.id]" tabindex="-1">{{ purchase.number }}</a>
            } @else {
              <span class="quiet">none of ours</span>
            }
          </ng-template>
          <ng-template nockCell="what" [nockCellOf]="rows()" let-row>
            {{ kind(row) }}
            @if (row.findings[0]; as first) {
              <div class="small quiet says">{{ says(first) }}</div>
            }
          </ng-template>
          <ng-template nockCell="day" [nockCellOf]="rows()" let-row>{{ row.at.slice(0, 10) | day }}</ng-template>
          <ng-template nockCell="state" [nockCellOf]="rows()" let-row>
            <span [class.look]="row.needsLook">{{ state(row) }}</span>
          </ng-template>
        </nock-list>
      </ng-container>
      <ng-container gloss>
        @if (message(); as message) {
          <h2>{{ message.supplier.name }}: {{ kind(message) }}</h2>
          <p class="quiet small">
            <span class="code">{{ message.number }}</span>, {{ message.at.slice(0, 10) | day }}
          </p>
          @for (finding of message.findings; track $index) {
            @let sentence = says(finding);
            <p>{{ sentence }}{{ ends(sentence) }}</p>
          } @empty {
            <p>{{ message.direction === 'out' ? 'Went as a file.' : 'All as it was ordered.' }}</p>
          }
          @if (message.hurts.length > 0) {
            <p>
              <a [routerLink]="['/shortages']" [queryParams]="{ lines: message.hurts.join(',') }"
                >Route the shortages: {{ message.hurts.length === 1 ? 'one line' : message.hurts.length + ' lines' }}</a
              >
            </p>
          }
          <p><a [href]="'/api/messages/' + message.id + '/file'" download>The file, UBL 2.1</a></p>
        } @else {
          <h2>Supplier responses</h2>
          <p class="quiet">
            Days, quantities and costs within what you agreed with the supplier hold at once. What goes beyond needs your decision. What is not as ordered, and
            whom it hurts, stands here until somebody has reviewed it.
          </p>
        }
        @if (mayPlan()) {
          <nock-stand-in-form />
        }
      </ng-container>
      <ng-container acts>
        @if (maySell() && message()?.state === 'held') {
          <button mat-flat-button type="button" (click)="decide(true)">Accept response <kbd>T</kbd></button>
          <button mat-button type="button" (click)="decide(false)">Decline response <kbd>U</kbd></button>
        } @else if (maySell()) {
          <button mat-flat-button type="button" [disabled]="!message()?.needsLook" (click)="seeTo()">Mark reviewed <kbd>L</kbd></button>
        }
        <button mat-button type="button" [disabled]="!message()?.purchase" (click)="open()">Open purchase order <kbd>Enter</kbd></button>
        <span class="fault" role="alert">{{ said() }}</span>
      </ng-container>
    </nock-sheet>
  `,
  styles: `
    :host {
      display: block;
      height: 100%;
      min-height: 0;
    }
    .says {
      max-width: 420px;
      overflow: hidden;
      text-overflow: ellipsis;
      white-space: nowrap;
    }
    .look,
    .fault {
      color: var(--open);
      font-weight: 600;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class MessageList {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  protected readonly maySell = this.session.maySell;
  protected readonly mayPlan = this.session.mayPlan;
  protected readonly go = addressWords();
  readonly q = input<string>();
  readonly which = input<string>();
  protected readonly chosen = computed(() => wordOf(WHICH, this.which()));
  protected readonly rows = signal<readonly MessageView[]>([]);
  protected readonly next = signal<number | null>(null);
  private readonly toLook = signal(0);
  protected readonly choices = computed((): readonly Choice[] =>
    WHICH.map(([word, name]) => [word, word === 'look' && this.toLook() > 0 ? `${name}, ${this.toLook()}` : name]),
  );
  protected readonly fault = signal('');
  protected readonly said = signal('');
  protected readonly at = signal<number | null>(null);
  protected readonly message = computed(() => this.rows().find((row) => row.id === this.at()) ?? this.rows()[0] ?? null);
  protected readonly says = (row: Finding) => findingWords(row, this.session.today());
  protected readonly columns = COLUMNS;
  protected readonly idOf = (row: MessageView) => row.id;
  protected readonly kind = kindInWords;
  protected readonly state = stateInWords;

  constructor() {
    keptList({
      q: this.q,
      state: this.chosen,
      load: ({ state, ...query }) => this.api.call(supplyRoutes.listMessages, { query: { ...query, ...(state ? { which: state } : {}) } }),
      topics: 'supplier:',
      fault: this.fault,
    }).subscribe(({ rows, next, toLook }) => {
      this.rows.set(rows);
      this.next.set(next);
      this.toLook.set(toLook);
    });
    inject(Keys).use([
      { key: 'L', does: 'mark the response reviewed', run: () => this.seeTo() },
      { key: 'T', does: 'accept the response', run: () => this.decide(true) },
      { key: 'U', does: 'decline the response', run: () => this.decide(false) },
    ]);
  }

  /** Sentences end with a full stop, whoever wrote them. */
  protected ends(sentence: string): string {
    return /[.!?”]$/.test(sentence) ? '' : '.';
  }

  protected more(): void {
    const before = this.next();
    if (before === null) return;
    const search = this.q();
    this.api.call(supplyRoutes.listMessages, { query: { ...(search ? { search } : {}), which: this.chosen(), before } }).subscribe({
      next: ({ rows, next }) => {
        this.rows.update((known) => [...known, ...rows]);
        this.next.set(next);
      },
      error: (error: Error) => this.fault.set(error.message),
    });
  }

  protected seeTo(): boolean {
    const message = this.message();
    if (!message?.needsLook || message.state === 'held' || !this.maySell()) return false;
    this.said.set('');
    this.api.call(supplyRoutes.lookedAt, { params: { message: message.id } }).subscribe({ error: (error: Error) => this.said.set(error.message) });
    return true;
  }

  protected decide(take: boolean): boolean {
    const message = this.message();
    if (message?.state !== 'held' || !this.maySell()) return false;
    this.said.set('');
    this.api
      .call(supplyRoutes.decideAnswer, { params: { message: message.id }, body: { take } })
      .subscribe({ error: (error: Error) => this.said.set(error.message) });
    return true;
  }

  protected open(row = this.message()): void {
    if (row?.purchase) void this.router.navigate(['/supply', row.purchase.id]);
  }
}
