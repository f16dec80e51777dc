import { ChangeDetectionStrategy, Component, computed, effect, inject, input, numberAttribute, signal, untracked, viewChild } from '@angular/core';
import { takeUntilDestroyed, toObservable } from '@angular/core/rxjs-interop';
import { MatButton } from '@angular/material/button';
import { Router } from '@angular/router';
import { counterRoutes, type BasketView } from '@nockwright/contract/counter';
import { readScan } from '@nockwright/core/scans';
import { catchError, EMPTY, switchMap, type Observable } from 'rxjs';
import { Session } from '../access';
import { Api } from '../api';
import { Live } from '../live';
import { AmountPipe, isPrice, Keys, LineForm, PricePipe, QuantityField, ScanInput, TextField, UnitPipe, focusOnce } from '../paper';
import { Sounds } from '../shipping';
import { ScanQueue } from './scan-queue';
import { SignaturePad } from './signature-pad';

type Method = 'cash' | 'card' | 'account';

/** A sale over the counter: scan, see the price, take the payment, hand over the receipt. */
@Component({
  selector: 'nock-basket-sheet',
  imports: [MatButton, AmountPipe, LineForm, PricePipe, UnitPipe, QuantityField, ScanInput, SignaturePad, TextField],
  templateUrl: './basket-sheet.html',
  styleUrl: './basket-sheet.css',
  changeDetection: ChangeDetectionStrategy.OnPush,
})
export class BasketSheet {
  private readonly api = inject(Api);
  private readonly router = inject(Router);
  private readonly session = inject(Session);
  private readonly sounds = inject(Sounds);
  protected readonly queue = inject(ScanQueue);
  /** Where the receipt goes, and where it went. */
  protected readonly mailTo = signal('');
  protected readonly mailed = signal('');
  private readonly field = viewChild(ScanInput);
  private readonly pad = viewChild(SignaturePad);
  readonly id = input.required({ transform: numberAttribute });
  protected readonly basket = signal<BasketView | null>(null);
  protected readonly fault = signal('');
  protected readonly busy = signal(false);
  protected readonly count = signal('1');
  /** Scans take goods back out of the basket. */
  protected readonly back = signal(false);
  protected readonly said = signal<{ readonly right: boolean; readonly words: string } | null>(null);
  protected readonly paying = signal(false);
  protected readonly given = signal('');
  /** The line whose price is set. */
  protected readonly priced = signal<number | null>(null);
  protected readonly price = signal('');
  protected readonly waiting = computed(() => this.queue.pending().filter(({ what }) => what.order === this.id()));
  protected readonly change = computed(() => {
    const total = Number(this.basket()?.total ?? 0);
    const given = Number(this.given() || total);
    return given >= total ? String(Math.round((given - total) * 100) / 100) : null;
  });

  constructor() {
    const live = inject(Live);
    toObservable(this.id)
      .pipe(
        switchMap((id) =>
          live.kept(
            () => this.api.call(counterRoutes.readBasket, { params: { order: id } }).pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
            (topic) => topic === `basket:${id}` || topic === `order:${id}`,
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((basket) => this.basket.set(basket));
    effect(() => {
      const answered = this.queue.answered();
      if (answered?.what.order !== untracked(this.id)) return;
      const { ok, words, basket } = answered.answer;
      untracked(() => {
        this.basket.set(basket);
        this.said.set({ right: ok, words });
        if (ok) this.sounds.right();
        else this.sounds.wrong();
      });
    });
    focusOnce(this.field);
    inject(Keys).use([
      { key: 'Ctrl+Enter', does: 'take the payment: cash', run: () => (this.paying() ? this.pay('cash') : this.openPayment()) },
      { key: 'Ctrl+B', does: 'take back by scanning, and on again', run: () => this.back.set(!this.back()) },
      { key: 'Escape', does: 'back to the counter; the basket stays', run: () => this.leave() },
    ]);
  }

  /** What is wrong with a label is said at once, network or not; the rest the desk says. */
  protected scan(text: string): void {
    const read = readScan(text, this.session.today());
    const expired = read.ok && read.scan.expires !== undefined && read.scan.expires < this.session.today();
    if (!read.ok || (expired && !this.back())) {
      this.sounds.wrong();
      this.field()?.refuse(read.ok ? `Lot ${read.scan.lot ?? ''} has expired. Put it into quarantine.` : `This label cannot be read: ${read.fault}.`);
      return;
    }
    this.queue.add({ order: this.id(), scan: text, count: this.count() || '1', back: this.back() });
    this.count.set('1');
    this.field()?.clear();
    this.field()?.focus();
  }

  protected openPayment(): void {
    if ((this.basket()?.lines.length ?? 0) === 0 || this.waiting().length > 0) return;
    this.given.set('');
    this.paying.set(true);
  }

  protected pay(method: Method): void {
    const basket = this.basket();
    if (!basket) return;
    const signature = this.pad()?.picture() ?? null;
    this.run(
      this.api.call(counterRoutes.payBasket, {
        params: { order: basket.order },
        body: {
          version: basket.version,
          method,
          ...(method === 'cash' && this.given() !== '' ? { given: this.given() } : {}),
          ...(signature === null ? {} : { signature }),
        },
      }),
      () => this.paying.set(false),
    );
  }

  protected setPrice(line: number): void {
    if (!isPrice(this.price())) return this.fault.set('Enter a price with at most four decimals.');
    this.run(
      this.api.call(counterRoutes.priceBasket, { params: { order: this.id() }, body: { line, price: this.price(), reason: 'agreed at the counter' } }),
      () => this.priced.set(null),
    );
  }

  protected editPrice(line: BasketView['lines'][number]): void {
    this.price.set(line.price.replace(/0{1,2}$/, ''));
    this.priced.set(line.line);
  }

  protected drop(): void {
    this.run(this.api.call(counterRoutes.dropBasket, { params: { order: this.id() }, body: {} }), () => this.leave());
  }

  protected mailReceipt(email: string): void {
    this.run(this.api.call(counterRoutes.mailReceipt, { params: { order: this.id() }, body: { email } }), () => {
      this.mailed.set(`The receipt goes to ${email}.`);
      this.mailTo.set('');
    });
  }

  protected leave(): void {
    void this.router.navigate(['/counter'], { queryParams: { warehouse: this.basket()?.warehouse ?? null } });
  }

  private run(act: Observable<BasketView>, done: () => void): void {
    if (this.busy()) return;
    this.busy.set(true);
    this.fault.set('');
    act.subscribe({
      next: (basket) => {
        this.busy.set(false);
        this.basket.set(basket);
        done();
      },
      error: (error: Error) => {
        this.busy.set(false);
        this.sounds.wrong();
        this.fault.set(error.message);
      },
    });
  }
}
