import { ChangeDetectionStrategy, Component, computed, effect, inject, input, numberAttribute, signal, untracked, viewChild } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { MatSnackBar } from '@angular/material/snack-bar';
import { Router, RouterLink } from '@angular/router';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import { Session } from '../access';
import { AmountPipe, History, Keys, Sheet } from '../paper';
import { LineGloss } from './line-gloss';
import { LineTable } from './line-table';
import { OrderActs, type OrderAct } from './order-acts';
import { adviceFor } from './order-advice';
import { OrderGloss } from './order-gloss';
import { OrderHeader } from './order-header';
import { OrderForms } from './order-forms';
import { LineOptions } from './options/line-options';
import { CustomerTerms } from './customer-terms';
import { LineRouting } from './line-routing';
import { OrderStanding } from './order-standing';
import { OrderLines } from './order-lines';
import { OrderStore } from './order-store';
import { nextAct } from './next-act';
import { OrderWork } from './order-work';
import { PickList } from './pick-list';
import { ReleaseAct } from './release-act';
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
    History,
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
  providers: [OrderStore, OrderLines, OrderStanding, LineRouting, CustomerTerms, LineOptions, OrderForms, ReleaseAct, TypedLines, Unsaved, WhatIfDesk],
  templateUrl: './order-sheet.html',
  styleUrl: './order-sheet.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class OrderSheet {
  private readonly router = inject(Router);
  private readonly snack = inject(MatSnackBar);
  protected readonly store = inject(OrderStore);
  private readonly orderLines = inject(OrderLines);
  private readonly standing = inject(OrderStanding);
  private readonly routing = inject(LineRouting);
  private readonly forms = inject(OrderForms);
  private readonly releasing = inject(ReleaseAct);
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
  protected readonly doing = this.forms.doing;
  /** What the gloss explains: the line that has the focus, or the one being typed. */
  protected readonly line = computed(() => {
    const selected = this.selected();
    if (selected === null || selected === 0) return this.preview();
    if (this.tried()?.id === selected) return this.tried();
    return this.store.order()?.lines.find((line) => line.id === selected) ?? null;
  });
  protected readonly open = this.forms.open;
  protected readonly mayPromise = computed(() => {
    const line = this.line();
    return line !== null && this.store.order()?.state === 'released' && line.schedule.some((entry) => !entry.kept);
  });
  protected readonly advice = computed(() => {
    const order = this.store.order();
    return order && !this.picking() ? adviceFor(order) : '';
  });

  constructor() {
    inject(LineOptions).look({ line: this.line, changing: computed(() => this.tried() !== null && this.tried()?.id === this.line()?.id) });
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
      { key: 'Ctrl+Enter', does: 'release the draft; promise what is available; to what comes next', run: () => this.mainAct() },
      { key: 'Ctrl+I', does: 'pick items: what they usually buy, an earlier order', run: () => this.openPicks() },
      { key: 'Ctrl+B', does: 'read a mail or a list as lines', run: () => this.openMail('') },
      { key: 'X', does: 'cancel the line, or a quantity of it; close a quote as lost', run: () => this.forms.lose() || this.forms.cancel(false, this.line()) },
      { key: 'Ctrl+O', does: 'options for all short lines together', run: () => this.forms.combine() },
      { key: 'V', does: 'revise a quote', run: () => this.forms.revise() },
      { key: 'U', does: 'move the order up: another priority, or ahead of another order', run: () => this.forms.turn() },
      { key: 'M', does: 'increase the line', run: () => this.forms.raise(this.line()) },
      { key: 'A', does: 'open the newest paper: acknowledgement, quote, pro forma', run: () => this.forms.openPaper() },
      { key: 'W', does: 'mail the newest paper', run: () => this.forms.mail() },
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

  private release(): void {
    const shown = () => {
      this.preview.set(null);
      this.selected.set(null);
    };
    this.releasing.release(() => this.entry()?.unfinished(), shown);
  }

  protected removeLine(line: LineView): void {
    this.orderLines.removeLine(line);
    this.toEntry();
    this.snack
      .open(`Line ${line.lineNo} is removed.`, 'Undo', { duration: 8000 })
      .onAction()
      .subscribe(() => this.orderLines.putBack(line));
  }

  private promiseRest(): void {
    const line = this.line();
    if (line) this.routing.promiseRest(line);
  }

  /** What a button at the foot says. */
  protected do(act: OrderAct): void {
    if (act === 'release') this.release();
    else if (act === 'discard') this.standing.discard(() => void this.router.navigateByUrl('/orders'));
    else if (act === 'revise') this.forms.revise();
    else if (act === 'promise') this.promiseRest();
    else if (act === 'mail') this.forms.mail();
    else if (act === 'turn') this.forms.turn();
    else if (act === 'raise') this.forms.raise(this.line());
    else if (act === 'line' || act === 'order') this.forms.cancel(act === 'order', this.line());
    else this.forms.begin(act);
  }

  /** To where the next thing is done with a released order; nothing, where it waits. */
  private goOn(order: OrderView): boolean {
    const next = nextAct(order, this.session.today());
    if (next.does === 'ship') void this.router.navigate(['/shipping'], { queryParams: { q: order.number } });
    else if (next.does === 'send') void this.router.navigate(['/supply', next.purchase]);
    return next.does !== 'wait';
  }

  private mainAct(): boolean {
    const order = this.store.order();
    if (!order || this.doing() !== null || this.mail() !== null || this.picking() || !this.maySell()) return false;
    if (order.state === 'quoted') this.doing.set('accept');
    else if (order.state === 'draft') this.release();
    else if (this.mayPromise()) this.promiseRest();
    else if (this.open()) return this.goOn(order);
    return true;
  }
}
