import { inject, Injectable } from '@angular/core';
import { documentRoutes } from '@nockwright/contract/documents';
import { mailRoutes } from '@nockwright/contract/mail';
import { orderRoutes, type CancellationPreview, type LineView, type OrderView, type RaisePreview } from '@nockwright/contract/orders';
import type { RippleView } from '@nockwright/contract/promise';
import { quoteRoutes } from '@nockwright/contract/quotes';
import type { BodyOf, QueryOf } from '@nockwright/contract/shape';
import { finalize, type Observable } from 'rxjs';
import type { LostReason } from '@nockwright/core/orders';
import type { ProblemError } from '../api';
import { Api } from '../api';
import { OrderStore, seenOf } from './order-store';

/** Acts on the order as a whole: release, holds, turn, cancellation, papers, and what becomes of a quote. */
@Injectable()
export class OrderStanding {
  private readonly api = inject(Api);
  private readonly store = inject(OrderStore);
  private releasing = false;

  /** Closes what was dealt with of the customer's text. */
  closeTask(task: number, how: string): void {
    this.store.run((order) => this.api.call(orderRoutes.closeTask, { params: { order: order.id, task }, body: { how } }));
  }

  hold(why: string, done: () => void): void {
    this.store.run((order) => this.api.call(orderRoutes.holdOrder, { params: { order: order.id }, body: { version: order.version, why } }), done);
  }

  clearHold(hold: number, why: string, done: () => void): void {
    this.store.run((order) => this.api.call(orderRoutes.clearHold, { params: { order: order.id, hold }, body: { version: order.version, why } }), done);
  }

  /** Releases an order, or sends a quote, as it is on the screen; where the promise has moved meanwhile, the server refuses and tells the difference. */
  release(done: () => void): void {
    if (this.releasing) return;
    this.releasing = true;
    this.store.run(
      (order) => {
        const body = { version: order.version, seen: seenOf(order) };
        return order.kind === 'quote'
          ? this.api.call(quoteRoutes.sendQuote, { params: { quote: order.id }, body })
          : this.api.call(orderRoutes.releaseOrder, { params: { order: order.id }, body });
      },
      () => {
        this.releasing = false;
        done();
      },
      () => (this.releasing = false),
    );
  }

  cancel(wish: Omit<BodyOf<typeof orderRoutes.cancelOrder>, 'version'>, done: () => void): void {
    this.store.run((order) => this.api.call(orderRoutes.cancelOrder, { params: { order: order.id }, body: { version: order.version, ...wish } }), done);
  }

  makeProForma(): void {
    this.store.run(({ id }) => this.api.call(documentRoutes.makeProForma, { params: { order: id } }));
  }

  mail(wish: BodyOf<typeof mailRoutes.mailPaper>, done: () => void): void {
    this.store.run(({ id }) => this.api.call(mailRoutes.mailPaper, { params: { order: id }, body: wish }), done);
  }

  /** `content` in base64. */
  attachFile(name: string, content: string): void {
    this.store.run(({ id }) => this.api.call(documentRoutes.attachFile, { params: { order: id }, body: { name, content } }));
  }

  removeFile(file: number): void {
    this.store.run(({ id }) => this.api.call(documentRoutes.removeFile, { params: { order: id, file } }));
  }

  /** Writes a quote anew that is out or was lost. */
  reviseQuote(): void {
    this.store.run(({ id, version }) => this.api.call(quoteRoutes.reviseQuote, { params: { quote: id }, body: { version } }));
  }

  loseQuote(reason: LostReason, note: string, done: () => void): void {
    this.store.run(({ id, version }) => this.api.call(quoteRoutes.loseQuote, { params: { quote: id }, body: { version, reason, note } }), done);
  }

  /** Makes an order of what is taken of the quote; `made` has the order, the quote is fetched anew. */
  acceptQuote(wish: Omit<BodyOf<typeof quoteRoutes.acceptQuote>, 'version'>, made: (order: OrderView) => void): void {
    const quote = this.store.order();
    if (!quote || this.store.busy()) return;
    this.store.busy.set(true);
    this.store.fault.set('');
    this.api
      .call(quoteRoutes.acceptQuote, { params: { quote: quote.id }, body: { version: quote.version, ...wish } })
      .pipe(finalize(() => this.store.busy.set(false)))
      .subscribe({
        next: made,
        error: (error: ProblemError) => {
          this.store.fault.set(error.message);
          if (error.status === 409) this.store.reload();
        },
      });
  }

  discard(done: () => void): void {
    const order = this.store.order();
    if (!order) return;
    this.api
      .call(orderRoutes.discardOrder, { params: { order: order.id }, body: { version: order.version } })
      .subscribe({ next: done, error: (error: Error) => this.store.fault.set(error.message) });
  }

  previewCancellation(what: QueryOf<typeof orderRoutes.previewCancellation>): Observable<CancellationPreview> {
    return this.api.call(orderRoutes.previewCancellation, { params: { order: this.store.order()!.id }, query: what });
  }

  /** What another class, or a place ahead of another order, would do to all. */
  previewTurn(wish: QueryOf<typeof orderRoutes.previewTurn>): Observable<RippleView> {
    return this.api.call(orderRoutes.previewTurn, { params: { order: this.store.order()!.id }, query: wish });
  }

  rank(wish: Omit<BodyOf<typeof orderRoutes.rankOrder>, 'version'>, done: () => void): void {
    this.store.run((order) => this.api.call(orderRoutes.rankOrder, { params: { order: order.id }, body: { version: order.version, ...wish } }), done);
  }

  previewRaise(line: LineView, quantity: string, claim: boolean): Observable<RaisePreview> {
    return this.api.call(orderRoutes.previewRaise, { params: { order: this.store.order()!.id, line: line.id }, query: { quantity, claim } });
  }

  raise(line: LineView, wish: Omit<BodyOf<typeof orderRoutes.raiseLine>, 'version'>, done: () => void): void {
    this.store.run(
      (order) => this.api.call(orderRoutes.raiseLine, { params: { order: order.id, line: line.id }, body: { version: order.version, ...wish } }),
      done,
    );
  }
}
