import { ChangeDetectionStrategy, Component, computed, effect, inject, input, signal, untracked } from '@angular/core';
import { MatButton } from '@angular/material/button';
import { Router, RouterLink } from '@angular/router';
import { bankRoutes, paymentRoutes, type BankEntryView, type BankProposal } from '@nockwright/contract/billing';
import type { CustomerFound } from '@nockwright/contract/customers';
import { map, Subject, switchMap, type Observable } from 'rxjs';
import { Api } from '../api';
import { keptList } from '../live';
import {
  addressWords,
  AmountPipe,
  amountInWords,
  chosenText,
  DayPipe,
  fieldsOf,
  Keys,
  ListCell,
  ListChoice,
  ListPage,
  RecordForm,
  recordOf,
  Sheet,
  wordOf,
} from '../paper';
import { BANK_COLUMNS, stateOf } from './bank-columns';
import { goesInWords, whyInWords } from './bank-words';
import { PayerFinder } from './payer-finder';

const STATES = [
  ['waiting', 'waiting'],
  ['booked', 'booked'],
  ['set_aside', 'set aside'],
  ['all', 'all'],
] as const;
const MOST_BYTES = 2_000_000;
const WHY = fieldsOf<{ why: string }>([{ name: 'why', label: 'Why', most: 300 }]);

/** Movements on the bank account: sure ones are booked by one key, doubtful ones by looking at whose they may be, side by side. */
@Component({
  selector: 'nock-bank-page',
  imports: [AmountPipe, DayPipe, ListCell, ListChoice, ListPage, MatButton, PayerFinder, RecordForm, RouterLink, Sheet],
  templateUrl: './bank-page.html',
  host: { class: 'record-sheet' },
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BankPage {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  protected readonly filter = addressWords();
  protected readonly states = STATES;
  protected readonly columns = BANK_COLUMNS;
  protected readonly idOf = (row: BankEntryView) => row.id;
  protected readonly whyInWords = whyInWords;
  protected readonly goesInWords = goesInWords;
  protected readonly stateOf = stateOf;
  readonly q = input<string>();
  readonly state = input<string>();
  protected readonly which = computed(() => wordOf(STATES, this.state()));
  protected readonly rows = signal<readonly BankEntryView[]>([]);
  protected readonly more = signal(false);
  protected readonly sure = signal(0);
  protected readonly waiting = signal(0);
  protected readonly currency = signal('');
  protected readonly at = signal<number | null>(null);
  protected readonly fault = signal('');
  protected readonly said = signal('');
  protected readonly busy = signal(false);
  protected readonly asides = signal(false);
  private readonly again = new Subject<void>();
  protected readonly entry = computed(() => this.rows().find((row) => row.id === this.at()) ?? null);
  /** A customer that somebody named, beside those that are proposed. */
  protected readonly named = signal<BankProposal | null>(null);
  protected readonly proposals = computed((): readonly BankProposal[] => {
    const [entry, named] = [this.entry(), this.named()];
    if (entry?.state !== 'waiting' || entry.direction === 'out') return [];
    return [...entry.proposals.filter((row) => row.customer !== named?.customer), ...(named ? [named] : [])];
  });
  protected readonly chosen = signal(0);
  protected readonly record = computed(() => {
    const entry = this.entry();
    if (!this.asides() || !entry) return null;
    return recordOf<{ why: string }, { waiting: number }>({
      heading: 'Set aside',
      act: 'Set aside',
      name: 'aside',
      subject: entry.id,
      fields: WHY,
      value: {},
      route: bankRoutes.setBankEntryAside,
      hint: 'A movement that is no payment of a customer. It can be taken up again.',
      send: (body) => this.api.call(bankRoutes.setBankEntryAside, { params: { entry: entry.id }, body }),
    });
  });

  constructor() {
    keptList({
      q: this.q,
      state: this.which,
      load: ({ search, state }) => this.api.call(bankRoutes.listBankEntries, { query: { state, ...(search ? { q: search } : {}) } }),
      topics: 'customer:',
      fault: this.fault,
      again: this.again,
    }).subscribe(({ rows, more, waiting, sure, currency }) => {
      this.rows.set(rows);
      this.more.set(more);
      this.waiting.set(waiting);
      this.sure.set(sure);
      this.currency.set(currency);
    });
    effect(() => {
      this.at();
      untracked(() => {
        this.named.set(null);
        this.chosen.set(0);
        this.asides.set(false);
      });
    });
    const digits = ['1', '2', '3', '4'].map((key, at) => ({ key, does: at === 0 ? 'choose whose it is, by its number' : '', run: () => this.choose(at) }));
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'book the movement for the chosen customer', run: () => this.book() },
      { key: 'B', does: 'book all that are sure', run: () => this.bookSure() },
      { key: 'X', does: 'set the movement aside', run: () => this.setAside() },
      { key: 'U', does: 'take up again what was set aside', run: () => this.takeUp() },
      ...digits,
      { key: 'Escape', does: 'to the invoices', run: () => void this.router.navigateByUrl('/invoices') },
    ]);
  }

  protected look(row: BankEntryView): void {
    this.at.set(row.id);
  }

  protected choose(at: number): boolean {
    if (at >= this.proposals().length) return false;
    this.chosen.set(at);
    return true;
  }

  /** Somebody says whose it is: where it would go is proposed as of any payment. */
  protected name(customer: CustomerFound): void {
    const entry = this.entry();
    if (!entry) return;
    const { amount, day } = entry;
    this.api.call(paymentRoutes.readMoney, { params: { customer: customer.id } }).subscribe({
      next: ({ invoices }) =>
        this.api.call(paymentRoutes.proposePayment, { params: { customer: customer.id }, query: { amount, day } }).subscribe({
          next: ({ settled, onAccount }) => {
            if (this.entry()?.id !== entry.id) return;
            const found = settled.flatMap((row) => invoices.filter((one) => one.id === row.invoice).map(({ number, open }) => ({ ...row, number, open })));
            this.named.set({ customer: customer.id, name: customer.name, settled: found, onAccount, why: [], sure: false });
            this.chosen.set(this.proposals().length - 1);
          },
          error: (error: Error) => this.fault.set(error.message),
        }),
      error: (error: Error) => this.fault.set(error.message),
    });
  }

  protected book(): boolean {
    const [entry, proposal] = [this.entry(), this.proposals()[this.chosen()]];
    if (!entry || !proposal || this.busy()) return false;
    const { customer, settled, name } = proposal;
    const body = { customer, settled: settled.map(({ invoice, amount, discount }) => ({ invoice, amount, discount })) };
    this.run(this.api.call(bankRoutes.bookBankEntry, { params: { entry: entry.id }, body }), () => {
      this.said.set(`Booked ${amountInWords(entry.amount)} for ${name}.`);
      this.next(entry.id);
    });
    return true;
  }

  /** A hundred at a time, until none is left. */
  protected bookSure(): boolean {
    if (this.busy() || this.sure() === 0) return false;
    this.sureFrom(0);
    return true;
  }

  private sureFrom(done: number): void {
    this.run(this.api.call(bankRoutes.bookSureEntries, { body: {} }), ({ booked, left }) => {
      const all = done + booked;
      this.said.set(`Booked ${all} ${all === 1 ? 'payment' : 'payments'}${left > 0 ? `, ${left} to go` : ''}.`);
      if (booked > 0 && left > 0) this.sureFrom(all);
    });
  }

  protected setAside(): boolean {
    if (this.entry()?.state !== 'waiting') return false;
    this.asides.set(true);
    return true;
  }

  protected wasSetAside(): void {
    const id = this.at();
    this.asides.set(false);
    this.said.set('Set aside.');
    if (id !== null) this.next(id);
    this.again.next();
  }

  protected takeUp(): boolean {
    const entry = this.entry();
    if (entry?.state !== 'set_aside' || this.busy()) return false;
    this.run(this.api.call(bankRoutes.takeBankEntryUp, { params: { entry: entry.id }, body: {} }), () => this.said.set('It waits again.'));
    return true;
  }

  protected takeFile(field: HTMLInputElement): void {
    if (!field.files?.length) return;
    const took = chosenText(field, MOST_BYTES).pipe(
      switchMap(({ name, content }) => this.api.call(bankRoutes.addBankFile, { body: { name, content } }).pipe(map((counts) => ({ name, ...counts })))),
    );
    this.run(took, ({ name, found, added }) =>
      this.said.set(`${name}: ${found} ${found === 1 ? 'movement' : 'movements'}${added === found ? '' : `, ${added} of them new`}.`),
    );
  }

  /** The movement after the one that is done. */
  private next(id: number): void {
    const rows = this.rows();
    const at = rows.findIndex((row) => row.id === id);
    this.at.set((rows[at + 1] ?? rows[at - 1])?.id ?? null);
  }

  private run<R>(act: Observable<R>, then: (reply: R) => void): void {
    this.busy.set(true);
    this.fault.set('');
    this.said.set('');
    act.subscribe({
      next: (reply) => {
        this.busy.set(false);
        then(reply);
        this.again.next();
      },
      error: (error: Error) => {
        this.busy.set(false);
        this.fault.set(error.message);
        this.again.next();
      },
    });
  }
}
