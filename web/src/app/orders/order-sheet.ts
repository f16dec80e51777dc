import { ChangeDetectionStrategy, Component, computed, effect, inject, input, numberAttribute, signal, untracked, viewChild } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatSnackBar } from '@angular/material/snack-bar';
import { Router, RouterLink } from '@angular/router';
import type { LineView } from '@nockwright/contract/orders';
import { shortDay } from '@nockwright/core/calendar';
import { Session } from '../access';
import { AmountPipe, Keys, Sheet } from '../paper';
import { LineGloss } from './line-gloss';
import { LineTable } from './line-table';
import { OrderActs, type OrderAct } from './order-acts';
import { adviceFor } from './order-advice';
import { OrderGloss } from './order-gloss';
import { OrderHeader } from './order-header';
import { HOLD_NAMES } from './order-holds';
import { OrderStore } from './order-store';
import { OrderWork, type Work } from './order-work';
import { PickList } from './pick-list';
import { QuickEntry } from './quick-entry';
import { TextReader } from './text-reader';
import { TypedLines } from './typed/typed-lines';
import { TypedRows } from './typed/typed-rows';
import { LeftOut } from './typed/left-out';
import { Unsaved } from './typed/unsaved';
import { WhatIfDesk } from './what-if-desk';

/** An order on paper: header, ruled lines on one date ruler, the quick line, and the gloss that says why. */
@Component({
  selector: 'nock-order-sheet',
  imports: [
    PickList,
    MatButton,
    RouterLink,
    AmountPipe,
    Sheet,
    LineGloss,
    LineTable,
    OrderActs,
    OrderGloss,
    OrderHeader,
    OrderWork,
    QuickEntry,
    TextReader,
    TypedRows,
    LeftOut,
  ],
  providers: [OrderStore, TypedLines, Unsaved, WhatIfDesk],
  template: `
    @if (store.order(); as order) {
      <nock-sheet>
        <ng-container sheet>
          <nock-order-header [order]="order" (elsewhere)="doing.set('address')" />
          <nock-left-out />
          <nock-line-table
            [order]="order"
            [preview]="preview()"
            [selected]="selected()"
            (picked)="pick($event)"
            (left)="toEntry()"
            (tried)="tried.set($event)"
            (removed)="removeLine($event)"
          />
          <nock-typed-rows (left)="toEntry()" (above)="lines().focusLast()" />
          @if (store.draft() && maySell()) {
            @if (picking()) {
              <nock-pick-list (closed)="closePicks()" />
            } @else if (mail() !== null) {
              <nock-text-reader [start]="mail()!" (closed)="closeMail()" />
            } @else {
              <nock-quick-entry (previewed)="showPreview($event)" (left)="up()" (pasted)="openMail($event)" />
            }
          }
          @if (order.lines.length > 0) {
            <dl class="totals">
              <div>
                <dt>Weight</dt>
                <dd class="figure">{{ order.weight | amount }} kg</dd>
              </div>
              @if (inOffice()) {
                <div>
                  <dt>Margin</dt>
                  <dd class="figure">{{ order.marginPercent ?? '–' }} %</dd>
                </div>
              }
              <div>
                <dt>Net</dt>
                <dd class="figure total">{{ order.amount | amount }} {{ order.currency }}</dd>
              </div>
            </dl>
          }
        </ng-container>
        <ng-container gloss>
          @if (doing(); as work) {
            <nock-order-work [order]="order" [work]="work" [line]="line()" (closed)="doing.set(null)" />
          } @else if (line(); as line) {
            <nock-line-gloss [order]="order" [line]="line" [changing]="tried()?.id === line.id" />
          } @else {
            <nock-order-gloss [order]="order" (mailed)="doing.set('mail')" />
          }
        </ng-container>
        <ng-container acts>
          @if (picks(); as picks) {
            <button mat-flat-button type="button" (click)="picks.add()" [disabled]="store.busy() || picks.lines().length === 0">
              Add {{ picks.lines().length }} {{ picks.lines().length === 1 ? 'line' : 'lines' }} <kbd>Ctrl Enter</kbd>
            </button>
            <button mat-button type="button" (click)="closePicks()">Leave it <kbd>Esc</kbd></button>
            <span class="quiet small"><kbd>↑ ↓</kbd> from item to item, <kbd>Enter</kbd> as many as the last time, <kbd>Del</kbd> none</span>
          }
          @if (reader(); as reader) {
            <button mat-flat-button type="button" (click)="reader.add()" [disabled]="store.busy() || reader.rows().length + reader.tasks().length === 0">
              Add {{ reader.rows().length }} {{ reader.rows().length === 1 ? 'line' : 'lines' }} <kbd>Ctrl Enter</kbd>
            </button>
            <button mat-button type="button" (click)="closeMail()">Leave it <kbd>Esc</kbd></button>
            <span class="quiet small"><kbd>↑ ↓</kbd> lines, <kbd>1</kbd>–<kbd>4</kbd> picks, <kbd>Enter</kbd> types it again, <kbd>Del</kbd> drops it</span>
          }
          @if (maySell() && mail() === null && !picking()) {
            <nock-order-acts [order]="order" [line]="line()" [open]="open()" [mayPromise]="mayPromise()" (act)="do($event)" />
          }
          <p class="said" role="alert" [class.good]="!store.fault()">{{ store.fault() || advice() }}</p>
        </ng-container>
      </nock-sheet>
    } @else if (store.missing()) {
      <p class="none">There is no such order. <a routerLink="/orders">All orders</a></p>
    } @else {
      <p class="none quiet" role="status">{{ store.fault() || 'Fetching the order …' }}</p>
    }
  `,
  styles: `
    .totals {
      display: flex;
      justify-content: flex-end;
      gap: 34px;
      margin: 12px 8px 0 0;
    }
    .totals div {
      display: flex;
      gap: 8px;
      align-items: baseline;
    }
    dt {
      color: var(--ink-quiet);
    }
    dd {
      margin: 0;
      font-weight: 600;
    }
    .total {
      font-size: 16px;
    }
    .said {
      margin: 0 0 0 auto;
      color: var(--open);
      font-weight: 600;
      max-width: 620px;
      text-align: right;
    }
    .said.good {
      color: var(--ink-quiet);
      font-weight: 400;
    }
    .none {
      padding: 40px 20px;
    }
  `,
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OrderSheet {
  private readonly router = inject(Router);
  private readonly snack = inject(MatSnackBar);
  protected readonly store = inject(OrderStore);
  private readonly typed = inject(TypedLines);
  private readonly unsaved = inject(Unsaved);
  private readonly session = inject(Session);
  protected readonly inOffice = this.session.inOffice;
  protected readonly maySell = this.session.maySell;
  readonly id = input.required({ transform: numberAttribute });
  /** A line to begin with: where another screen was pointing. */
  readonly at = input<number | undefined, unknown>(undefined, { transform: (value) => (value === undefined ? undefined : numberAttribute(value)) });
  protected readonly lines = viewChild.required(LineTable);
  private readonly entry = viewChild(QuickEntry);
  private readonly typedRows = viewChild(TypedRows);
  protected readonly reader = viewChild(TextReader);
  protected readonly picks = viewChild(PickList);

  protected readonly selected = signal<number | null>(null);
  protected readonly preview = signal<LineView | null>(null);
  /** A line that is being changed, as it would be. */
  protected readonly tried = signal<LineView | null>(null);
  /** A mail or list that is being read; null: none. */
  protected readonly mail = signal<string | null>(null);
  /** Items are picked from a list. */
  protected readonly picking = signal(false);
  protected readonly doing = signal<Work | null>(null);
  /** What the gloss explains: the line that has the focus, or the one being typed. */
  protected readonly line = computed(() => {
    const selected = this.selected();
    if (selected === null || selected === 0) return this.preview();
    if (this.tried()?.id === selected) return this.tried();
    return this.store.order()?.lines.find((line) => line.id === selected) ?? null;
  });
  protected readonly open = computed(() => this.store.order()?.lines.some((line) => line.state !== 'done') ?? false);
  protected readonly mayPromise = computed(() => {
    const line = this.line();
    return line !== null && this.store.order()?.state === 'released' && line.schedule.some((entry) => !entry.kept);
  });
  protected readonly advice = computed(() => {
    const order = this.store.order();
    return order && !this.picking() ? adviceFor(order) : '';
  });

  constructor() {
    effect(() => {
      const id = this.id();
      const at = this.at();
      untracked(() => {
        this.selected.set(at ?? null);
        this.preview.set(null);
        this.doing.set(null);
        this.mail.set(null);
        this.picking.set(false);
        this.store.open(id);
      });
    });
    effect(() => {
      const order = this.store.order();
      if (!order) return;
      untracked(() => {
        this.unsaved.open(order.id);
        this.typed.open(order.id);
      });
    });
    // The quick line has the focus as soon as a draft is there.
    effect(() => {
      const entry = this.entry();
      if (entry) untracked(() => entry.focus());
    });
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'release the draft; promise the rest; to shipping', run: () => this.mainAct() },
      { key: 'Ctrl+I', does: 'pick items: what they usually buy, an earlier order', run: () => this.openPicks() },
      { key: 'Ctrl+B', does: 'read a mail or a list as lines', run: () => this.openMail('') },
      { key: 'X', does: 'cancel the line, or a quantity of it; close a quote as lost', run: () => this.startLose() || this.startCancel(false) },
      { key: 'V', does: 'revise a quote', run: () => this.revise() },
      { key: 'U', does: 'move the order up: another class, or ahead of another order', run: () => this.startTurn() },
      { key: 'M', does: 'more of the line', run: () => this.startRaise() },
      { key: 'A', does: 'open the newest paper: acknowledgement, quote, pro forma', run: () => this.openPaper() },
      { key: 'W', does: 'mail the newest paper', run: () => this.startMail() },
      { key: 'H', does: 'the order as a whole: what happened to it', run: () => this.selected.set(null) },
      { key: 'Alt+ArrowUp', does: 'carry the line up; Alt with ↓ down', run: () => false },
      { key: 'L', does: 'to the lines', run: () => this.lines().focusLast() },
      { key: 'Escape', does: 'back to the quick line', run: () => this.toEntry() },
    ]);
  }

  protected openMail(text: string): boolean {
    if (!this.store.draft() || !this.maySell() || this.mail() !== null) return false;
    this.store.fault.set('');
    this.showPreview(null);
    this.mail.set(text);
    return true;
  }

  private openPicks(): boolean {
    if (!this.store.draft() || !this.maySell() || this.mail() !== null || this.doing() !== null) return false;
    this.store.fault.set('');
    this.showPreview(null);
    this.picking.set(true);
    return true;
  }

  protected closePicks(): void {
    this.picking.set(false);
    this.selected.set(null);
  }

  protected closeMail(): void {
    this.mail.set(null);
    this.selected.set(null);
  }

  protected pick(id: number): void {
    this.selected.set(id);
  }

  protected showPreview(line: LineView | null): void {
    this.preview.set(line);
    if (line) this.selected.set(0);
    else if (this.selected() === 0) this.selected.set(null);
  }

  /** From the quick line to what stands above it: a line that was refused, else the lines of the order. */
  protected up(): void {
    if (!this.typedRows()?.focusLast()) this.lines().focusLast();
  }

  protected toEntry(): boolean {
    const entry = this.entry();
    if (this.doing() !== null) return false;
    this.selected.set(null);
    entry?.focus();
    return entry !== undefined;
  }

  /** Lines that are under way come first; one that was refused, or stands unfinished in the quick line, is seen to before. */
  private release(): void {
    this.unsaved.flush();
    this.typed.whenSettled(() => {
      const [refused] = this.typed.rows();
      const unfinished = this.entry()?.unfinished();
      if (refused) this.store.fault.set(`“${refused.text}” is not in the order: ${refused.fault} Type it again (↑), or remove it (Esc).`);
      else if (unfinished) this.store.fault.set(`“${unfinished}” is typed and not added: Enter adds it, Esc removes it.`);
      else this.releaseNow();
    });
  }

  private releaseNow(): void {
    this.store.release(() => {
      this.preview.set(null);
      this.selected.set(null);
      const order = this.store.order();
      if (order?.kind === 'quote' && order.state === 'quoted') {
        this.snack.open(`Sent as quote ${order.number}, valid until ${shortDay(order.validUntil!, this.session.today())}. No goods are committed.`, undefined, {
          duration: 5000,
        });
        return;
      }
      if (order?.state !== 'released') return this.held();
      this.snack.open(`Released as order ${order.number}. Its goods are committed.`, undefined, { duration: 5000 });
    });
  }

  /** The order as a whole stands in the gloss then, with why it is held. */
  private held() {
    const kinds =
      this.store
        .order()
        ?.holds.filter((hold) => !hold.cleared)
        .map((hold) => HOLD_NAMES[hold.kind]) ?? [];
    this.store.fault.set(`It is held and not released: ${kinds.join(', ')}. The gloss says why, and who may let it go.`);
  }

  protected removeLine(line: LineView): void {
    this.store.removeLine(line);
    this.toEntry();
    this.snack
      .open(`Line ${line.lineNo} is removed.`, 'Undo', { duration: 8000 })
      .onAction()
      .subscribe(() => this.store.putBack(line));
  }

  private promiseRest(): void {
    const line = this.line();
    if (line) this.store.promiseRest(line);
  }

  /** What a button at the foot says. */
  protected do(act: OrderAct): void {
    if (act === 'release') this.release();
    else if (act === 'discard') this.store.discard(() => void this.router.navigateByUrl('/orders'));
    else if (act === 'revise') this.store.reviseQuote();
    else if (act === 'promise') this.promiseRest();
    else if (act === 'mail') this.startMail();
    else if (act === 'turn') this.startTurn();
    else if (act === 'raise') this.startRaise();
    else if (act === 'line' || act === 'order') this.startCancel(act === 'order');
    else this.begin(act);
  }

  /** Opens a form in the gloss. */
  private begin(what: Work): boolean {
    this.store.fault.set('');
    this.doing.set(what);
    return true;
  }

  private startLose(): boolean {
    return this.store.order()?.state === 'quoted' && this.maySell() && this.begin('lose');
  }

  private revise(): boolean {
    const state = this.store.order()?.state;
    if ((state !== 'quoted' && state !== 'lost') || !this.maySell()) return false;
    this.store.reviseQuote();
    return true;
  }

  private startCancel(whole: boolean): boolean {
    if (this.store.order()?.state !== 'released' || !this.open() || !this.maySell()) return false;
    if (!whole && this.line() === null) {
      this.store.fault.set('Go to the line first (L), then cancel it.');
      return true;
    }
    return this.begin(whole ? 'order' : 'line');
  }

  private startTurn(): boolean {
    return this.store.order()?.state === 'released' && this.open() && this.maySell() && this.begin('turn');
  }

  private startRaise(): boolean {
    const line = this.line();
    if (this.store.order()?.state !== 'released' || !this.maySell()) return false;
    if (!line || line.state === 'done') {
      this.store.fault.set('Go to an open line first (L), then ask for more of it.');
      return true;
    }
    return this.begin('raise');
  }

  private startMail(): boolean {
    return this.store.order()?.papers[0] !== undefined && this.maySell() && this.begin('mail');
  }

  private openPaper(): boolean {
    const paper = this.store.order()?.papers[0];
    if (!paper) return false;
    window.open(`/api/papers/${paper.id}`, '_blank', 'noopener');
    return true;
  }

  private mainAct(): boolean {
    const order = this.store.order();
    if (!order || this.doing() !== null || this.mail() !== null || this.picking() || !this.maySell()) return false;
    if (order.state === 'quoted') this.doing.set('accept');
    else if (order.state === 'draft') this.release();
    else if (this.mayPromise()) this.promiseRest();
    else if (this.open()) void this.router.navigate(['/shipping'], { queryParams: { q: order.number } });
    return true;
  }
}
