import { inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { supplyRoutes, type Arrival, type PurchaseView, type ReceiptReply, type SupplyRipple } from '@nockwright/contract/supply';
import type { Decision } from '@nockwright/contract/promise';
import type { BodyOf, Happened } from '@nockwright/contract/shape';
import { catchError, EMPTY, map, of, ReplaySubject, Subject, switchMap, tap, type Observable } from 'rxjs';
import { Session } from '../access';
import { Api, type ProblemError } from '../api';
import { Live } from '../live';

export interface LineQuantity {
  readonly line: number;
  readonly quantity: string;
}

/** The purchase order on the sheet. */
@Injectable()
export class PurchaseStore {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly live = inject(Live);
  private readonly opened = new ReplaySubject<number>(1);
  private readonly again = new Subject<void>();
  readonly purchase = signal<PurchaseView | null>(null);
  readonly fault = signal('');
  readonly busy = signal(false);
  readonly history = signal<readonly Happened[]>([]);
  /** Whom the goods just received are for. */
  readonly goesTo = signal<ReceiptReply['goesTo']>([]);

  constructor() {
    this.opened
      .pipe(
        switchMap((id) =>
          this.live.kept(
            () =>
              this.api.call(supplyRoutes.readPurchase, { params: { purchase: id } }).pipe(catchError((error: Error) => (this.fault.set(error.message), EMPTY))),
            (topic) => topic === `purchase:${id}` || (this.purchase()?.lines.some((line) => topic === `item:${line.item}`) ?? false),
            this.again,
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((purchase) => this.show(purchase));
  }

  open(id: number): void {
    this.purchase.set(null);
    this.fault.set('');
    this.goesTo.set([]);
    this.opened.next(id);
  }

  send(): void {
    this.run((purchase) => this.api.call(supplyRoutes.sendPurchase, { params: { purchase: purchase.id }, body: { version: purchase.version } }));
  }

  acknowledge(): void {
    this.run((purchase) => this.api.call(supplyRoutes.acknowledge, { params: { purchase: purchase.id }, body: { version: purchase.version } }));
  }

  reschedule(line: number, change: Omit<BodyOf<typeof supplyRoutes.reschedule>, 'version'>, done: () => void): void {
    this.run(
      (purchase) => this.api.call(supplyRoutes.reschedule, { params: { purchase: purchase.id, line }, body: { version: purchase.version, ...change } }),
      done,
    );
  }

  closeLine(line: number, reason: string, decision: Decision | undefined, done: () => void): void {
    const body = { reason, ...(decision ? { decision } : {}) };
    this.run(
      (purchase) => this.api.call(supplyRoutes.closeLine, { params: { purchase: purchase.id, line }, body: { version: purchase.version, ...body } }),
      done,
    );
  }

  cancel(by: 'us' | 'supplier', reason: string, decision: Decision | undefined, done: () => void): void {
    const body = { by, reason, ...(decision ? { decision } : {}) };
    this.run(
      (purchase) => this.api.call(supplyRoutes.cancelPurchase, { params: { purchase: purchase.id }, body: { version: purchase.version, ...body } }),
      done,
    );
  }

  receive(lines: readonly Arrival[], how: { readonly closeRest?: boolean; readonly notice?: number; readonly decision?: Decision }, done: () => void): void {
    this.run(
      (purchase) =>
        this.api.call(supplyRoutes.receive, { params: { purchase: purchase.id }, body: { version: purchase.version, lines, ...how } }).pipe(
          map((receipt) => {
            this.goesTo.set(receipt.goesTo);
            return receipt.purchase;
          }),
        ),
      done,
    );
  }

  changeDraft(draft: Omit<BodyOf<typeof supplyRoutes.changeDraft>, 'version'>, done: () => void): void {
    this.run((purchase) => this.api.call(supplyRoutes.changeDraft, { params: { purchase: purchase.id }, body: { version: purchase.version, ...draft } }), done);
  }

  confirmDespatch(lines: readonly LineQuantity[], tracking: string, done: () => void): void {
    this.run(
      (purchase) => this.api.call(supplyRoutes.confirmDespatch, { params: { purchase: purchase.id }, body: { version: purchase.version, tracking, lines } }),
      done,
    );
  }

  previewReschedule(
    line: number,
    wish: { readonly day: string; readonly open: string; readonly cost?: string },
    accept: readonly number[],
  ): Observable<SupplyRipple> {
    return this.api.call(supplyRoutes.previewReschedule, { params: { purchase: this.purchase()!.id, line }, query: { ...wish, accept: accept.join(',') } });
  }

  previewClose(line: number, accept: readonly number[]): Observable<SupplyRipple> {
    return this.api.call(supplyRoutes.previewClose, { params: { purchase: this.purchase()!.id, line }, query: { accept: accept.join(',') } });
  }

  previewCancel(accept: readonly number[]): Observable<SupplyRipple> {
    return this.api.call(supplyRoutes.previewCancel, { params: { purchase: this.purchase()!.id }, query: { accept: accept.join(',') } });
  }

  previewReceipt(lines: readonly LineQuantity[], closeRest: boolean, accept: readonly number[]): Observable<SupplyRipple> {
    const typed = lines.map(({ line, quantity }) => `${line}:${quantity}`).join(',');
    return this.api.call(supplyRoutes.previewReceipt, {
      params: { purchase: this.purchase()!.id },
      query: { lines: typed, closeRest, accept: accept.join(',') },
    });
  }

  private run(command: (purchase: PurchaseView) => Observable<PurchaseView>, done?: () => void): void {
    const purchase = this.purchase();
    if (!purchase || this.busy()) return;
    this.busy.set(true);
    this.fault.set('');
    command(purchase)
      .pipe(tap({ finalize: () => this.busy.set(false) }))
      .subscribe({
        next: (changed) => {
          this.show(changed);
          done?.();
        },
        error: (error: ProblemError) => {
          this.fault.set(error.message);
          if (error.status === 409) this.again.next();
        },
      });
  }

  private show(purchase: PurchaseView) {
    this.purchase.set(purchase);
    if (!this.session.may(supplyRoutes.purchaseHistory)) return;
    this.api
      .call(supplyRoutes.purchaseHistory, { params: { purchase: purchase.id } })
      .pipe(catchError(() => of([])))
      .subscribe((rows) => this.history.set(rows));
  }
}
