import { inject, Injectable, signal } from '@angular/core';
import { itemRoutes, type ItemFound } from '@nockwright/contract/items';
import type { Subscription } from 'rxjs';
import { Kept, Session } from '../../access';
import { Api, newKey, type ProblemError } from '../../api';
import { OrderLines } from '../order-lines';
import { OrderStore } from '../order-store';
import { readTyped, wishOf, type TypedLine } from './typed-line';

const AGAIN_MS = 3_000;

/**
 * Lines that were typed and are on their way into the order. Each Enter hands a text over as it stood; its item is looked
 * up at once, whatever the others wait for, and the lines are added one after the other in the sequence in which they were
 * typed. One that is refused stays with its text and why; those behind it go on. What is under way survives a closed tab:
 * it is sent again under the same key, which adds nothing twice.
 */
@Injectable()
export class TypedLines {
  private readonly api = inject(Api);
  private readonly kept = inject(Kept);
  private readonly session = inject(Session);
  private readonly store = inject(OrderStore);
  private readonly lines = inject(OrderLines);

  private readonly list = signal<readonly TypedLine[]>([]);
  readonly rows = this.list.asReadonly();
  private order: number | null = null;
  private readonly looks = new Map<string, Subscription>();
  private readonly settled: (() => void)[] = [];

  /** Goes on with what was under way on an order when it was left. */
  open(order: number): void {
    if (this.order === order) return;
    for (const look of this.looks.values()) look.unsubscribe();
    this.looks.clear();
    this.order = order;
    const before = this.kept.read<readonly TypedLine[]>(this.name()) ?? [];
    this.list.set(before.map((row) => (row.state === 'adding' ? { ...row, state: 'ready' } : row)));
    for (const row of this.list()) if (row.state === 'finding') this.find(row);
    this.next();
  }

  /** Takes a text over; `item` where it was chosen already. */
  add(text: string, item: ItemFound | null): void {
    const read = readTyped(text, this.store.order()?.kind ?? 'order', this.session.today());
    this.begin({ key: newKey(), text: text.trim(), read, state: item ? 'ready' : 'finding', fault: '', item, wish: null });
  }

  /** A refused line, typed again. It is another wish, so it goes under another key. One whose item was only near is taken as it is. */
  retry(key: string, text: string): void {
    if (text.trim() === '') return this.drop(key);
    const row = this.list().find((one) => one.key === key);
    if ((row?.item?.corrected || row?.item?.byGroup) && row.text === text.trim())
      return this.change(key, { state: 'ready', fault: '', item: { ...row.item, corrected: false, byGroup: false } });
    const read = readTyped(text, this.store.order()?.kind ?? 'order', this.session.today());
    const again: TypedLine = { key: newKey(), text: text.trim(), read, state: 'finding', fault: '', item: null, wish: null };
    this.set(this.list().map((row) => (row.key === key ? again : row)));
    this.find(again);
  }

  drop(key: string): void {
    this.looks.get(key)?.unsubscribe();
    this.looks.delete(key);
    this.set(this.list().filter((row) => row.key !== key));
    this.next();
  }

  /** Calls back as soon as nothing is under way any more. */
  whenSettled(then: () => void): void {
    if (this.list().some((row) => row.state !== 'refused')) this.settled.push(then);
    else then();
  }

  private begin(row: TypedLine) {
    this.set([...this.list(), row]);
    if (row.state === 'finding') this.find(row);
    else this.next();
  }

  private find(row: TypedLine) {
    const words = row.read.item.trim();
    if (words === '') return this.change(row.key, { state: 'refused', fault: 'Which item? Type its name or code before the quantity.' });
    const order = this.store.order();
    const query = { search: words, ...(order ? { customer: order.customer.id, warehouse: order.warehouse } : {}) };
    const look = this.api.call(itemRoutes.findItems, { query }).subscribe({
      // What was not typed is not taken without a word: a near spelling is asked about.
      next: ([item = null]) =>
        item?.corrected || item?.byGroup
          ? this.change(row.key, {
              state: 'refused',
              item,
              fault: `“${words}” is ${item.corrected ? 'not known' : `only the name of a group, ${item.group}`}. Enter takes ${item.code}, ${item.description}; or type it again.`,
            })
          : this.change(row.key, { state: 'ready', item }),
      error: (error: ProblemError) => this.failed(row, error, () => this.find(row)),
    });
    this.looks.set(row.key, look);
  }

  /** Sends the line that is at the front, unless one is under way; those before it that were refused stand aside. */
  private next() {
    const [first] = this.list().filter((row) => row.state !== 'refused');
    if (!first) {
      for (const then of this.settled.splice(0)) then();
      return;
    }
    if (first.state !== 'ready' || !this.store.order()) return;
    const asked = first.wish ? { ok: true as const, wish: first.wish } : wishOf(first.read, first.item, this.store.order());
    if (!asked.ok) return this.change(first.key, { state: 'refused', fault: asked.fault });
    this.change(first.key, { state: 'adding', wish: asked.wish });
    this.lines.addLine(asked.wish, first.key, (fault) => {
      if (fault === null) this.drop(first.key);
      else this.failed(first, fault, () => this.change(first.key, { state: 'ready' }));
    });
  }

  /** Where the desk cannot be reached nothing is refused: it is tried again until it answers. */
  private failed(row: TypedLine, error: ProblemError, again: () => void) {
    if (error.status === 503) setTimeout(() => this.list().some(({ key }) => key === row.key) && again(), AGAIN_MS);
    else this.change(row.key, { state: 'refused', fault: error.message });
  }

  private change(key: string, change: Partial<TypedLine>) {
    this.set(this.list().map((row) => (row.key === key ? { ...row, ...change } : row)));
    if (change.state !== 'adding') this.next();
  }

  private set(rows: readonly TypedLine[]) {
    this.list.set(rows);
    this.kept.write(this.name(), rows.length > 0 ? rows : null);
  }

  private name(): string {
    return `lines.${this.order}`;
  }
}
