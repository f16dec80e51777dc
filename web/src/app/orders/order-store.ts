import { computed, inject, Injectable, signal } from '@angular/core';
import { takeUntilDestroyed } from '@angular/core/rxjs-interop';
import { orderRoutes, type LineView, type OrderView } from '@nockwright/contract/orders';
import type { BodyOf, Happened } from '@nockwright/contract/shape';
import { catchError, EMPTY, of, ReplaySubject, Subject, switchMap, tap, type Observable } from 'rxjs';
import type { FieldValue, FieldValues } from '@nockwright/core/orders';
import type { ProblemError } from '../api';
import { Session } from '../access';
import { Api } from '../api';
import { Live } from '../live';
import { headOf, like, lineOf, TOGETHER, type FieldCollision } from './field-merge';

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

/** The order on the sheet: kept as it is on the server, changed by the desk's commands. One for each sheet. */
@Injectable()
export class OrderStore {
  private readonly api = inject(Api);
  private readonly session = inject(Session);
  private readonly live = inject(Live);
  private readonly opened = new ReplaySubject<number>(1);
  private readonly again = new Subject<void>();
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
  run(command: Command, done?: () => void, failed?: (fault: ProblemError) => void): void {
    this.enqueue({ command, done, failed });
  }

  enqueue(job: Job) {
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

/** What the screen shows of each line: the server compares it with what is true under lock. */
export function seenOf(order: OrderView) {
  return order.lines.map((line) => ({
    line: line.id,
    schedule: line.schedule.filter((entry) => !entry.dropShip).map(({ day, quantity }) => ({ day, quantity })),
    uncovered: line.uncovered,
  }));
}
