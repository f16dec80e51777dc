import { inject, Injectable, signal } from '@angular/core';
import { counterRoutes, type CounterScan } from '@nockwright/contract/counter';
import { Api, SentInTurn } from '../api';

/** What was scanned at a counter. */
export interface Scanned {
  readonly order: number;
  readonly scan: string;
  readonly count: string;
  readonly back: boolean;
}

/** What was scanned, sent in turn: selling goes on where there is no network for a while, and nothing is lost. */
@Injectable({ providedIn: 'root' })
export class ScanQueue {
  private readonly api = inject(Api);
  /** What the last scan that was sent did. */
  readonly answered = signal<{ readonly answer: CounterScan; readonly what: Scanned } | null>(null);
  private readonly sent = new SentInTurn<Scanned, CounterScan>(
    'nockwright-counter',
    ({ order, scan, count, back }, key) => this.api.call(counterRoutes.scanBasket, { params: { order }, body: { scan, count, back }, key }),
    isScanned,
    (answer, what) => this.answered.set({ answer, what }),
  );
  readonly pending = this.sent.pending;
  readonly refused = this.sent.refused;

  add(scanned: Scanned): void {
    this.sent.add(scanned);
  }
}

function isScanned(what: unknown): what is Scanned {
  const { order, scan, count, back } = (what ?? {}) as Partial<Scanned>;
  return typeof order === 'number' && typeof scan === 'string' && typeof count === 'string' && typeof back === 'boolean';
}
