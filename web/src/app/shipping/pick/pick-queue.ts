import { inject, Injectable, signal } from '@angular/core';
import { pickRoutes } from '@nockwright/contract/shipping';
import { Api, newKey, Reach, type ProblemError } from '../../api';

/** What was picked and is not known to the desk yet. */
export interface Picked {
  /** By which the desk knows it when it is sent twice. */
  readonly key: string;
  readonly part: number;
  readonly quantity: string;
  readonly scan: string | null;
}

const KEPT = 'nockwright-picks';

/**
 * Sends what was picked, one after the other, in the sequence it was done. What cannot be sent is kept, over a page that is closed too, and
 * sent as soon as the desk can be reached again: each once, by its key. What the desk refuses is told.
 */
@Injectable({ providedIn: 'root' })
export class PickQueue {
  private readonly api = inject(Api);
  private readonly waiting = signal<readonly Picked[]>(kept());
  private sending = false;
  readonly pending = this.waiting.asReadonly();
  /** What the desk refused last. */
  readonly refused = signal('');

  constructor() {
    inject(Reach).back.subscribe(() => this.send());
    this.send();
  }

  add(part: number, quantity: string, scan: string | null): void {
    this.keep([...this.waiting(), { key: newKey(), part, quantity, scan }]);
    this.send();
  }

  /** How much of a part is picked by what is still to be sent; null: nothing of it is. */
  pickedOf(part: number): string | null {
    return this.waiting().findLast((row) => row.part === part)?.quantity ?? null;
  }

  send(): void {
    const first = this.waiting()[0];
    if (!first || this.sending) return;
    this.sending = true;
    const { key, part, quantity, scan } = first;
    this.api.call(pickRoutes.pick, { params: { part }, body: { quantity, ...(scan === null ? {} : { scan }) }, key }).subscribe({
      next: () => this.settled(key),
      error: (error: ProblemError) => {
        if (error.type === '/problems/offline' || error.type === '/problems/busy') {
          this.sending = false;
          return;
        }
        this.refused.set(error.message);
        this.settled(key);
      },
    });
  }

  private settled(key: string): void {
    this.sending = false;
    this.keep(this.waiting().filter((row) => row.key !== key));
    this.send();
  }

  private keep(rows: readonly Picked[]): void {
    this.waiting.set(rows);
    localStorage.setItem(KEPT, JSON.stringify(rows));
  }
}

function kept(): readonly Picked[] {
  try {
    const rows: unknown = JSON.parse(localStorage.getItem(KEPT) ?? '[]');
    return Array.isArray(rows) ? rows.filter(isPicked) : [];
  } catch {
    return [];
  }
}

function isPicked(row: unknown): row is Picked {
  const { key, part, quantity } = row as Partial<Picked>;
  return typeof key === 'string' && typeof part === 'number' && typeof quantity === 'string';
}
