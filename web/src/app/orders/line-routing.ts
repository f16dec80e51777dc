import { inject, Injectable } from '@angular/core';
import { orderRoutes, type LineView, type OrderView } from '@nockwright/contract/orders';
import {
  outcomeWords,
  shortageRoutes,
  type CombinationView,
  type Combinations,
  type ConsentAnswer,
  type ConsentView,
  type ConsentWish,
  type RouteChoices,
  type RouteWish,
  type Undoing,
} from '@nockwright/contract/shortages';
import { map, of, switchMap, tap, type Observable } from 'rxjs';
import { Api } from '../api';
import { wishesOf, type PolicyName } from '../shortages';
import { OrderStore } from './order-store';

/** How shortages of lines are routed: options, routes taken and taken back, and what the customer is asked about. */
@Injectable()
export class LineRouting {
  private readonly api = inject(Api);
  private readonly store = inject(OrderStore);

  chooseRoute(line: LineView, parts: readonly RouteWish[], done?: () => void): void {
    this.store.run(
      (order) => this.api.call(orderRoutes.chooseRoute, { params: { order: order.id, line: line.id }, body: { version: order.version, parts } }),
      done,
    );
  }

  /** Options for all short lines together. */
  combinations(): Observable<Combinations> {
    return this.api.call(orderRoutes.readCombinations, { params: { order: this.store.order()!.id } });
  }

  /** Gives every line of a combination its option; `version`: of the order it was found for. */
  routeOrder(version: number, { complete, rows }: CombinationView, done: () => void): void {
    const choices = rows.flatMap(({ line, route, asks }) => (route === null || asks ? [] : [{ line, parts: wishesOf(route) }]));
    this.store.run((order) => this.api.call(orderRoutes.routeOrder, { params: { order: order.id }, body: { version, complete, choices } }), done);
  }

  /** What taking a route back would do. */
  previewUndo(line: LineView, route: number): Observable<Undoing> {
    return this.api.call(orderRoutes.previewUndo, { params: { order: this.store.order()!.id, line: line.id, route } });
  }

  undoRoute(line: LineView, route: number, supplier?: 'cancel' | 'keep'): void {
    const body = supplier ? { supplier } : {};
    this.store.run((order) => this.api.call(orderRoutes.undoRoute, { params: { order: order.id, line: line.id, route }, body }));
  }

  /** Asks the customer about a way for a line; where they agree on the phone already, it is done at once. */
  ask(line: LineView, wish: ConsentWish, agreed: boolean, done: () => void): void {
    this.store.run(
      (order) =>
        this.api.call(shortageRoutes.askCustomer, { params: { order: order.id, line: line.id }, body: wish }).pipe(
          switchMap(({ id }) =>
            agreed ? this.api.call(shortageRoutes.answerConsent, { params: { consent: id }, body: { answer: 'accept' as const } }).pipe(map(undone)) : of(''),
          ),
          this.thenRead(order),
        ),
      done,
    );
  }

  /** Records what the customer says about a question; what could not be done about it is told. */
  answer(consent: number, answer: ConsentAnswer): void {
    this.store.run((order) => this.api.call(shortageRoutes.answerConsent, { params: { consent }, body: answer }).pipe(map(undone), this.thenRead(order)));
  }

  withdraw(consent: number): void {
    this.store.run((order) =>
      this.api.call(shortageRoutes.withdrawConsent, { params: { consent }, body: {} }).pipe(
        map(() => ''),
        this.thenRead(order),
      ),
    );
  }

  /** The order as it is when something else was done about it, with what is to be told. */
  private thenRead(order: OrderView) {
    return (done: Observable<string>): Observable<OrderView> =>
      done.pipe(switchMap((told) => this.api.call(orderRoutes.readOrder, { params: { order: order.id } }).pipe(tap(() => told && this.store.fault.set(told)))));
  }

  promiseRest(line: LineView): void {
    this.store.run((order) => this.api.call(orderRoutes.promiseRest, { params: { order: order.id, line: line.id } }));
  }

  routesOf(line: LineView, quantity?: string, policy?: PolicyName): Observable<RouteChoices> {
    const query = { ...(quantity ? { quantity } : {}), ...(policy ? { policy } : {}) };
    return this.api.call(orderRoutes.readRoutes, { params: { order: this.store.order()!.id, line: line.id }, query });
  }
}

/** Why an answer could not be acted on; empty where it was. */
function undone({ needsWork, outcome }: ConsentView): string {
  return needsWork && outcome !== null ? `The answer is kept, but: ${outcomeWords(outcome)}.` : '';
}
