import { inject, signal } from '@angular/core';
import type { Observable } from 'rxjs';
import { newKey, type ProblemError } from './api';
import { Reach } from './reach';

/** Something that was done and is not known to the desk yet. */
export interface Kept<T> {
  /** By which the desk knows it when it is sent twice. */
  readonly key: string;
  readonly what: T;
}

/**
 * Sends what was done, one after the other, in the sequence it was done. What cannot be sent is kept, over a page that is closed too, and sent as soon
 * as the desk can be reached again: each once, by its key. What the desk refuses is told, and what follows goes on. Make one where things are injected.
 */
export class SentInTurn<T, R> {
  private readonly waiting;
  private sending = false;
  readonly pending;
  /** What the desk refused last. */
  readonly refused = signal('');

  constructor(
    /** Under which it is kept in this browser. */
    private readonly name: string,
    private readonly send: (what: T, key: string) => Observable<R>,
    private readonly isKept: (what: unknown) => what is T,
    private readonly done: (answer: R, what: T) => void = () => undefined,
  ) {
    this.waiting = signal<readonly Kept<T>[]>(this.load());
    this.pending = this.waiting.asReadonly();
    inject(Reach).back.subscribe(() => this.next());
    this.next();
  }

  add(what: T): void {
    this.keep([...this.waiting(), { key: newKey(), what }]);
    this.next();
  }

  private next(): void {
    const first = this.waiting()[0];
    if (!first || this.sending) return;
    this.sending = true;
    this.send(first.what, first.key).subscribe({
      next: (answer) => {
        this.done(answer, first.what);
        this.settled(first.key);
      },
      error: (error: ProblemError) => {
        this.sending = false;
        if (error.type === '/problems/offline' || error.type === '/problems/busy') return;
        this.refused.set(error.message);
        this.settled(first.key);
      },
    });
  }

  private settled(key: string): void {
    this.sending = false;
    this.keep(this.waiting().filter((row) => row.key !== key));
    this.next();
  }

  private keep(rows: readonly Kept<T>[]): void {
    this.waiting.set(rows);
    localStorage.setItem(this.name, JSON.stringify(rows));
  }

  private load(): readonly Kept<T>[] {
    try {
      const rows: unknown = JSON.parse(localStorage.getItem(this.name) ?? '[]');
      if (!Array.isArray(rows)) return [];
      return rows.filter((row: Partial<Kept<T>>): row is Kept<T> => typeof row.key === 'string' && this.isKept(row.what));
    } catch {
      return [];
    }
  }
}
