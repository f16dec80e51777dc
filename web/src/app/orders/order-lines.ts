import { inject, Injectable } from '@angular/core';
import { itemRoutes, type QueueRow } from '@nockwright/contract/items';
import { orderRoutes, type LineView, type TextRead } from '@nockwright/contract/orders';
import type { BodyOf } from '@nockwright/contract/shape';
import { of, switchMap, type Observable } from 'rxjs';
import type { ProblemError } from '../api';
import { Api } from '../api';
import { OrderStore } from './order-store';

export interface LineWish {
  readonly item: string;
  readonly quantity: string;
  readonly unit?: string;
  readonly requestedDay?: string;
  /** Of a quote: offered beside the others, perhaps instead of one of them. */
  readonly alternative?: boolean;
  readonly alternativeTo?: number | null;
}

/** Lines added, moved, priced and removed, one after the other. */
@Injectable()
export class OrderLines {
  private readonly api = inject(Api);
  private readonly store = inject(OrderStore);

  /** Adds a line under a key, however often it is sent; `settled` is told why it was refused, or null. */
  addLine(wish: LineWish, key: string, settled: (fault: ProblemError | null) => void): void {
    this.store.enqueue({
      command: (order) => this.api.call(orderRoutes.addLine, { params: { order: order.id }, body: wish, key }),
      done: () => settled(null),
      failed: settled,
      alone: true,
    });
  }

  /** Adds lines at once, with what was read of the head; all or none. */
  addLines(wish: Omit<BodyOf<typeof orderRoutes.addLines>, 'version' | 'seen'>, done: () => void): void {
    this.store.run((order) => {
      const { poNumber, requestKind, requestedDay, version } = order;
      return this.api.call(orderRoutes.addLines, { params: { order: order.id }, body: { version, seen: { poNumber, requestKind, requestedDay }, ...wish } });
    }, done);
  }

  /** What a mail or a list is understood as; nothing is added. */
  readText(text: string): Observable<TextRead> {
    return this.api.call(orderRoutes.readText, { params: { order: this.store.order()!.id }, body: { text } });
  }

  /** Settles a line's price: another source, a price by hand, or the one that is looked up now. */
  setPrice(line: LineView, wish: Omit<BodyOf<typeof orderRoutes.setPrice>, 'version'>, done?: () => void): void {
    this.store.run(
      (order) => this.api.call(orderRoutes.setPrice, { params: { order: order.id, line: line.id }, body: { version: order.version, ...wish } }),
      done,
    );
  }

  /** Puts a line at a place among the lines, counted from 1, as they are by then. */
  moveLine(line: LineView, place: (current: number) => number, done?: () => void): void {
    this.store.run((order) => {
      const current = order.lines.find((row) => row.id === line.id);
      const to = current ? Math.min(order.lines.length, Math.max(1, place(current.lineNo))) : 0;
      if (!current || to === current.lineNo) return of(order);
      return this.api.call(orderRoutes.moveLine, { params: { order: order.id, line: line.id }, body: { to } });
    }, done);
  }

  /** Puts a line that was removed back as it was: at its place, at the price that was settled for it. */
  putBack(line: LineView): void {
    const { item, quantity, unit, requestedDay, warehouse, note, shipTo, alternative, alternativeTo, pin } = line;
    const stands = alternative ? { alternative, alternativeTo } : {};
    const body = { item, quantity, unit, requestedDay, warehouse, note, shipTo: shipTo?.id ?? null, ...stands };
    this.store.run((order) =>
      this.api.call(orderRoutes.addLine, { params: { order: order.id }, body }).pipe(
        switchMap((added) => {
          const back = added.lines.find((row) => !order.lines.some((other) => other.id === row.id));
          if (!back) return of(added);
          const params = { order: order.id, line: back.id };
          const to = Math.min(line.lineNo, added.lines.length);
          return this.api
            .call(orderRoutes.moveLine, { params, body: { to } })
            .pipe(switchMap((moved) => (pin ? this.api.call(orderRoutes.setPrice, { params, body: { version: moved.version, pin } }) : of(moved))));
        }),
      ),
    );
  }

  removeLine(line: LineView): void {
    this.store.run((order) => this.api.call(orderRoutes.removeLine, { params: { order: order.id, line: line.id } }));
  }

  /** Who has their turn for a line's item, in sequence. */
  queueOf(line: Pick<LineView, 'item' | 'warehouse'>): Observable<readonly QueueRow[]> {
    return this.api.call(itemRoutes.readQueue, { params: { item: line.item }, query: { warehouse: line.warehouse } });
  }
}
