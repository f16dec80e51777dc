import { computed, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { customerRoutes } from '@nockwright/contract/customers';
import { documentRoutes } from '@nockwright/contract/documents';
import { itemRoutes, type QueueRow } from '@nockwright/contract/items';
import { mailRoutes } from '@nockwright/contract/mail';
import { orderRoutes, type CancellationPreview, type LineView, type OrderView, type RaisePreview, type TextRead } from '@nockwright/contract/orders';
import { promiseRoutes, type RippleView } from '@nockwright/contract/promise';
import { quoteRoutes } from '@nockwright/contract/quotes';
import type { BodyOf, Happened, QueryOf } from '@nockwright/contract/shape';
import {
  shortageRoutes,
  type ConsentAnswer,
  type ConsentView,
  type ConsentWish,
  type RouteChoices,
  type RouteWish,
  type Undoing,
} from '@nockwright/contract/shortages';
import { catchError, EMPTY, finalize, map, of, ReplaySubject, Subject, switchMap, tap, type Observable } from 'rxjs';
import type { FieldValue, FieldValues, LostReason } from '@nockwright/core/orders';
import type { ProblemError } from '../api';
import { Session } from '../access';
import { Api } from '../api';
import { Live } from '../live';
import type { PolicyName } from '../shortages';

export interface LineWish {
  readonly item: string;
  readonly quantity: string;
  readonly unit?: string;
  readonly requestedDay?: string;
  /** Of a quote: offered beside the others, perhaps instead of one of them. */
  readonly alternative?: boolean;
  readonly alternativeTo?: number | null;
}

type Command = (order: OrderView) => Observable<OrderView>;

/** A command and who is told what became of it. One that stands `alone` is sent also where one before it was refused. */
interface Job {
  readonly command: Command;
  readonly done?: (() => void) | undefined;
  readonly failed?: ((fault: ProblemError) => void) | undefined;
  readonly alone?: boolean;
}

type HeadChange = Omit<BodyOf<typeof orderRoutes.changeOrder>, 'version' | 'seen'>;
type LineChange = Omit<BodyOf<typeof orderRoutes.changeLine>, 'version' | 'seen'>;

/** A field that two people changed. `line`: of which line; null: of the head. */
export interface FieldCollision {
  readonly key: string;
  readonly field: string;
  readonly line: number | null;
  readonly mine: FieldValue;
  readonly theirs: string | null;
  readonly who: string;
  /** Sends mine once more, in the place of theirs. */
  readonly again: () => void;
}

/** Fields that mean one thing together. */
const TOGETHER: Readonly<Record<string, readonly string[]>> = {
  quantity: ['unit'],
  unit: ['quantity'],
  requestKind: ['requestedDay'],
};

/** The order on the sheet: kept as it is on the server, changed by the desk's commands. One for each sheet. */
@Injectable()
export class OrderStore {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly live = inject(Live);
  private readonly opened = new ReplaySubject<number>(1);
  private readonly again = new Subject<void>();
  private releasing = false;
  private readonly waiting: Job[] = [];

  readonly order = signal<OrderView | null>(null);
  readonly fault = signal('');
  readonly busy = signal(false);
  readonly missing = signal(false);
  readonly history = signal<readonly Happened[]>([]);
  /** Fields that somebody else changed while they were being changed here. */
  readonly collisions = signal<readonly FieldCollision[]>([]);
  /** What was last put into a field from here. */
  private readonly own = new Map<string, FieldValue | undefined>();
  readonly draft = computed(() => this.order()?.state === 'draft');

  constructor() {
    this.opened
      .pipe(
        switchMap((id) =>
          this.live.kept(
            () =>
              this.api.call(orderRoutes.readOrder, { params: { order: id } }).pipe(
                catchError((error: ProblemError) => {
                  this.missing.set(error.status === 404);
                  this.fault.set(error.message);
                  return EMPTY;
                }),
              ),
            (topic) => topic === `order:${id}` || this.concerns(topic),
            this.again,
          ),
        ),
        takeUntilDestroyed(),
      )
      .subscribe((order) => this.show(order));
  }

  open(id: number): void {
    this.order.set(null);
    this.collisions.set([]);
    this.own.clear();
    this.missing.set(false);
    this.fault.set('');
    this.opened.next(id);
  }

  reload(): void {
    this.again.next();
  }

  /** Changes fields of the head; others may change the rest of it meanwhile. `base`: the order as it stood when the change was begun. */
  change(change: HeadChange, base: OrderView | null = this.order()): void {
    if (base) this.merge(null, change, headOf(base), headOf);
  }

  /** Adds a line under a key, however often it is sent; `settled` is told why it was refused, or null. */
  addLine(wish: LineWish, key: string, settled: (fault: ProblemError | null) => void): void {
    this.enqueue({
      command: (order) => this.api.call(orderRoutes.addLine, { params: { order: order.id }, body: wish, key }),
      done: () => settled(null),
      failed: settled,
      alone: true,
    });
  }

  /** Adds lines at once, with what was read of the head; all or none. */
  addLines(wish: Omit<BodyOf<typeof orderRoutes.addLines>, 'version' | 'seen'>, done: () => void): void {
    this.run((order) => {
      const { poNumber, requestKind, requestedDay, version } = order;
      return this.api.call(orderRoutes.addLines, { params: { order: order.id }, body: { version, seen: { poNumber, requestKind, requestedDay }, ...wish } });
    }, done);
  }

  /** What a mail or a list is understood as; nothing is added. */
  readText(text: string): Observable<TextRead> {
    return this.api.call(orderRoutes.readText, { params: { order: this.order()!.id }, body: { text } });
  }

  /** Changes fields of a line; others may change the rest of it meanwhile. `line`: as it stood when the change was begun. */
  changeLine(line: LineView, change: LineChange, done?: () => void, refused?: () => void): void {
    this.merge(line, change, lineOf(line), (order) => lineOf(order.lines.find((row) => row.id === line.id) ?? line), done, refused);
  }

  /** Of a field that somebody else changed, too: what I typed goes in the place of theirs, or is forgotten. */
  decide(collision: FieldCollision, keep: 'mine' | 'theirs'): void {
    this.collisions.update((all) => all.filter((other) => other !== collision));
    if (keep === 'mine') collision.again();
  }

  private merge<F extends FieldValues>(
    line: LineView | null,
    change: F,
    base: FieldValues,
    shown: (order: OrderView) => FieldValues,
    done?: () => void,
    refused?: () => void,
  ) {
    const key = (field: string) => (line ? `line.${line.id}.${field}` : field);
    // A quantity is meant in a unit, and a kind of wish with its day.
    const fields = new Set(Object.keys(change).flatMap((field) => [field, ...(TOGETHER[field] ?? [])]));
    const command = (order: OrderView) => {
      const now = shown(order);
      // What I have put there myself since is no surprise.
      const seen = Object.fromEntries([...fields].map((field) => [field, this.own.get(key(field)) === now[field] ? now[field] : base[field]]));
      const body = { version: order.version, seen, ...change };
      const call = line
        ? this.api.call(orderRoutes.changeLine, { params: { order: order.id, line: line.id }, body: body as BodyOf<typeof orderRoutes.changeLine> })
        : this.api.call(orderRoutes.changeOrder, { params: { order: order.id }, body: body as BodyOf<typeof orderRoutes.changeOrder> });
      return call.pipe(
        tap((changed) => {
          for (const field of fields) this.own.set(key(field), shown(changed)[field]);
          this.collisions.update((all) => all.filter((one) => ![...fields].some((field) => one.key === key(field))));
        }),
      );
    };
    const failed = (fault: ProblemError) => {
      const theirs = fault.errors.flatMap(({ field, theirs, who }) =>
        theirs === undefined ? [] : [{ field: field.replace('body.', ''), theirs, who: who ?? '' }],
      );
      if (theirs.length === 0) return refused?.();
      const now = { ...base, ...Object.fromEntries(theirs.map((one) => [one.field, one.theirs === null ? null : like(base[one.field], one.theirs)])) };
      const again = () => this.merge(line, change, now, shown, done, refused);
      const mine = (field: string) => (change[field] === undefined ? base[field] : change[field]) ?? null;
      const found = theirs.map((one) => ({
        key: key(one.field),
        field: one.field,
        line: line?.id ?? null,
        mine: mine(one.field),
        theirs: one.theirs,
        who: one.who,
        again,
      }));
      this.collisions.update((all) => [...all.filter((one) => !found.some((other) => other.key === one.key)), ...found]);
    };
    this.run(command, done, failed);
  }

  /** Settles a line's price: another source, a price by hand, or the one that is looked up now. */
  setPrice(line: LineView, wish: Omit<BodyOf<typeof orderRoutes.setPrice>, 'version'>, done?: () => void): void {
    this.run((order) => this.api.call(orderRoutes.setPrice, { params: { order: order.id, line: line.id }, body: { version: order.version, ...wish } }), done);
  }

  /** Closes what was dealt with of the customer's text. */
  closeTask(task: number, how: string): void {
    this.run((order) => this.api.call(orderRoutes.closeTask, { params: { order: order.id, task }, body: { how } }));
  }

  hold(why: string, done: () => void): void {
    this.run((order) => this.api.call(orderRoutes.holdOrder, { params: { order: order.id }, body: { version: order.version, why } }), done);
  }

  clearHold(hold: number, why: string, done: () => void): void {
    this.run((order) => this.api.call(orderRoutes.clearHold, { params: { order: order.id, hold }, body: { version: order.version, why } }), done);
  }

  /** Puts a line at a place among the lines, counted from 1, as they are by then. */
  moveLine(line: LineView, place: (current: number) => number, done?: () => void): void {
    this.run((order) => {
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
    this.run((order) =>
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
    this.run((order) => this.api.call(orderRoutes.removeLine, { params: { order: order.id, line: line.id } }));
  }

  chooseRoute(line: LineView, parts: readonly RouteWish[], done?: () => void): void {
    this.run((order) => this.api.call(orderRoutes.chooseRoute, { params: { order: order.id, line: line.id }, body: { parts } }), done);
  }

  /** What taking a route back would do. */
  previewUndo(line: LineView, route: number): Observable<Undoing> {
    return this.api.call(orderRoutes.previewUndo, { params: { order: this.order()!.id, line: line.id, route } });
  }

  undoRoute(line: LineView, route: number, supplier?: 'cancel' | 'keep'): void {
    const body = supplier ? { supplier } : {};
    this.run((order) => this.api.call(orderRoutes.undoRoute, { params: { order: order.id, line: line.id, route }, body }));
  }

  /** Asks the customer about a way for a line; where they agree on the phone already, it is done at once. */
  ask(line: LineView, wish: ConsentWish, agreed: boolean, done: () => void): void {
    this.run(
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
    this.run((order) => this.api.call(shortageRoutes.answerConsent, { params: { consent }, body: answer }).pipe(map(undone), this.thenRead(order)));
  }

  withdraw(consent: number): void {
    this.run((order) =>
      this.api.call(shortageRoutes.withdrawConsent, { params: { consent }, body: {} }).pipe(
        map(() => ''),
        this.thenRead(order),
      ),
    );
  }

  /** The order as it is when something else was done about it, with what is to be told. */
  private thenRead(order: OrderView) {
    return (done: Observable<string>): Observable<OrderView> =>
      done.pipe(switchMap((told) => this.api.call(orderRoutes.readOrder, { params: { order: order.id } }).pipe(tap(() => told && this.fault.set(told)))));
  }

  promiseRest(line: LineView): void {
    this.run((order) => this.api.call(orderRoutes.promiseRest, { params: { order: order.id, line: line.id } }));
  }

  /** Releases an order, or sends a quote, as it is on the screen; where the promise has moved meanwhile, the server refuses and tells the difference. */
  release(done: () => void): void {
    if (this.releasing) return;
    this.releasing = true;
    this.run(
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
    this.run((order) => this.api.call(orderRoutes.cancelOrder, { params: { order: order.id }, body: { version: order.version, ...wish } }), done);
  }

  makeProForma(): void {
    this.run(({ id }) => this.api.call(documentRoutes.makeProForma, { params: { order: id } }));
  }

  mail(wish: BodyOf<typeof mailRoutes.mailPaper>, done: () => void): void {
    this.run(({ id }) => this.api.call(mailRoutes.mailPaper, { params: { order: id }, body: wish }), done);
  }

  /** `content` in base64. */
  attachFile(name: string, content: string): void {
    this.run(({ id }) => this.api.call(documentRoutes.attachFile, { params: { order: id }, body: { name, content } }));
  }

  removeFile(file: number): void {
    this.run(({ id }) => this.api.call(documentRoutes.removeFile, { params: { order: id, file } }));
  }

  /** Makes the prospect a customer: they may be sold to then. */
  makeCustomer(): void {
    const order = this.order();
    if (order)
      this.api
        .call(customerRoutes.makeCustomer, { params: { customer: order.customer.id } })
        .subscribe({ next: () => this.reload(), error: (error: Error) => this.fault.set(error.message) });
  }

  /** Sets how much the customer may owe; null: no limit. */
  setCreditLimit(limit: string | null, reason: string, done: () => void): void {
    const order = this.order();
    if (!order) return;
    this.fault.set('');
    this.api
      .call(customerRoutes.setCreditLimit, { params: { customer: order.customer.id }, body: { limit, reason, was: order.customer.credit!.limit } })
      .subscribe({
        next: () => {
          this.reload();
          done();
        },
        error: (error: Error) => this.fault.set(error.message),
      });
  }

  /** Writes a quote anew that is out or was lost. */
  reviseQuote(): void {
    this.run(({ id, version }) => this.api.call(quoteRoutes.reviseQuote, { params: { quote: id }, body: { version } }));
  }

  loseQuote(reason: LostReason, note: string, done: () => void): void {
    this.run(({ id, version }) => this.api.call(quoteRoutes.loseQuote, { params: { quote: id }, body: { version, reason, note } }), done);
  }

  /** Makes an order of what is taken of the quote; `made` has the order, the quote is fetched anew. */
  acceptQuote(wish: Omit<BodyOf<typeof quoteRoutes.acceptQuote>, 'version'>, made: (order: OrderView) => void): void {
    const quote = this.order();
    if (!quote || this.busy()) return;
    this.busy.set(true);
    this.fault.set('');
    this.api
      .call(quoteRoutes.acceptQuote, { params: { quote: quote.id }, body: { version: quote.version, ...wish } })
      .pipe(finalize(() => this.busy.set(false)))
      .subscribe({
        next: made,
        error: (error: ProblemError) => {
          this.fault.set(error.message);
          if (error.status === 409) this.reload();
        },
      });
  }

  discard(done: () => void): void {
    const order = this.order();
    if (!order) return;
    this.api
      .call(orderRoutes.discardOrder, { params: { order: order.id }, body: { version: order.version } })
      .subscribe({ next: done, error: (error: Error) => this.fault.set(error.message) });
  }

  routesOf(line: LineView, quantity?: string, policy?: PolicyName): Observable<RouteChoices> {
    const query = { ...(quantity ? { quantity } : {}), ...(policy ? { policy } : {}) };
    return this.api.call(orderRoutes.readRoutes, { params: { order: this.order()!.id, line: line.id }, query });
  }

  previewCancellation(what: QueryOf<typeof orderRoutes.previewCancellation>): Observable<CancellationPreview> {
    return this.api.call(orderRoutes.previewCancellation, { params: { order: this.order()!.id }, query: what });
  }

  /** What another class, or a place ahead of another order, would do to all. */
  previewTurn(wish: QueryOf<typeof orderRoutes.previewTurn>): Observable<RippleView> {
    return this.api.call(orderRoutes.previewTurn, { params: { order: this.order()!.id }, query: wish });
  }

  rank(wish: Omit<BodyOf<typeof orderRoutes.rankOrder>, 'version'>, done: () => void): void {
    this.run((order) => this.api.call(orderRoutes.rankOrder, { params: { order: order.id }, body: { version: order.version, ...wish } }), done);
  }

  previewRaise(line: LineView, quantity: string, claim: boolean): Observable<RaisePreview> {
    return this.api.call(orderRoutes.previewRaise, { params: { order: this.order()!.id, line: line.id }, query: { quantity, claim } });
  }

  raise(line: LineView, wish: Omit<BodyOf<typeof orderRoutes.raiseLine>, 'version'>, done: () => void): void {
    this.run((order) => this.api.call(orderRoutes.raiseLine, { params: { order: order.id, line: line.id }, body: { version: order.version, ...wish } }), done);
  }

  /** Who has their turn for a line's item, in sequence. */
  queueOf(line: Pick<LineView, 'item' | 'warehouse'>): Observable<readonly QueueRow[]> {
    return this.api.call(itemRoutes.readQueue, { params: { item: line.item }, query: { warehouse: line.warehouse } });
  }

  /** How sure promises to this customer must be from now on; null: as the desk's are. */
  setConfidence(confidence: number | null): void {
    this.wish((customer) => this.api.call(promiseRoutes.setConfidence, { body: { customer, confidence } }));
  }

  /** How ways are ranked for this customer, and whether they are asked before a later day is settled. */
  setRoutePolicy(body: BodyOf<typeof shortageRoutes.setCustomerPolicy>): void {
    this.wish((customer) => this.api.call(shortageRoutes.setCustomerPolicy, { params: { customer }, body }));
  }

  /** Days of life that must be left on delivery to this customer; null: as the items say. */
  setLeastLife(days: number | null): void {
    this.wish((customer) => this.api.call(customerRoutes.setLifeAsked, { params: { customer }, body: { days } }));
  }

  private wish(set: (customer: number) => Observable<unknown>): void {
    const order = this.order();
    if (order) set(order.customer.id).subscribe({ next: () => this.reload(), error: (error: Error) => this.fault.set(error.message) });
  }

  /** Whether a change of this topic may move a day on this order. */
  concerns(topic: string): boolean {
    return this.order()?.lines.some((line) => topic === `item:${line.item}`) ?? false;
  }

  loadHistory(): void {
    const order = this.order();
    if (order && this.session.may(orderRoutes.orderHistory))
      this.api
        .call(orderRoutes.orderHistory, { params: { order: order.id } })
        .pipe(catchError(() => of([])))
        .subscribe((rows) => this.history.set(rows));
  }

  /** Commands are sent one after the other, each on the order as the one before left it. */
  private run(command: Command, done?: () => void, failed?: (fault: ProblemError) => void): void {
    this.enqueue({ command, done, failed });
  }

  private enqueue(job: Job) {
    this.waiting.push(job);
    if (!this.busy()) this.next();
  }

  private next() {
    const job = this.waiting.shift();
    const order = this.order();
    this.busy.set(job !== undefined && order !== null);
    if (!job || !order) return;
    if (!job.alone) this.fault.set('');
    job.command(order).subscribe({
      next: (changed) => {
        this.show(changed);
        try {
          job.done?.();
        } finally {
          this.next();
        }
      },
      error: (error: ProblemError) => {
        // What was to follow was meant for an order that has not come about; what stands alone was not.
        const dropped = this.waiting.filter((waiting) => !waiting.alone);
        this.waiting.splice(0, this.waiting.length, ...this.waiting.filter((waiting) => waiting.alone));
        this.busy.set(false);
        if (!job.alone) this.fault.set(error.message);
        for (const { failed } of [job, ...dropped]) failed?.(error);
        // Someone else was first: show what is true now, keep what was typed.
        if (error.status === 409) this.reload();
        if (!this.busy()) this.next();
      },
    });
  }

  private show(order: OrderView) {
    const current = this.order();
    // An answer that was under way when a newer one came must not undo it.
    if (current && current.id === order.id && current.version > order.version) return;
    this.order.set(order);
    this.loadHistory();
  }
}

/** The head as a change of it names its fields. */
function headOf(order: OrderView): FieldValues {
  const { poNumber, requestKind, requestedDay, warehouse, shipComplete, mostShipments, termsDays, description, source, note, validUntil } = order;
  return {
    shipTo: order.shipTo.id,
    poNumber,
    requestKind,
    requestedDay,
    warehouse,
    shipComplete,
    mostShipments,
    termsDays,
    description,
    carrierService: order.carrier.code,
    source,
    note,
    contract: order.contract?.id ?? null,
    ...(validUntil === null ? {} : { validUntil }),
  };
}

function lineOf({ unit, quantity, requestedDay, warehouse, note, shipTo, alternative, alternativeTo }: LineView): FieldValues {
  return { unit, quantity, requestedDay, warehouse, note, shipTo: shipTo?.id ?? null, alternative, alternativeTo };
}

/** A value that came as text, of the kind the field has. */
function like(kind: FieldValue | undefined, value: string): FieldValue {
  if (typeof kind === 'boolean') return value === 'true';
  return typeof kind === 'number' ? Number(value) : value;
}

/** What the screen shows of each line: the server compares it with what is true under lock. */
export function seenOf(order: OrderView) {
  return order.lines.map((line) => ({
    line: line.id,
    schedule: line.schedule.filter((entry) => !entry.dropShip).map(({ day, quantity }) => ({ day, quantity })),
    uncovered: line.uncovered,
  }));
}

/** Why an answer could not be acted on; empty where it was. */
function undone({ needsWork, outcome }: ConsentView): string {
  return needsWork ? `The answer is kept, but: ${outcome}.` : '';
}
