import { inject, Injectable, signal } from '@angular/core';
import { pickRoutes, type ConsignmentView } from '@nockwright/contract/shipping';
import { Api, SentInTurn } from '../../api';

/** What was picked of a part. */
interface Picked {
  readonly part: number;
  readonly quantity: string;
  readonly scan: string | null;
}

/** What was picked, sent in turn: a walk goes on where there is no network. */
@Injectable({ providedIn: 'root' })
export class PickQueue {
  private readonly api = inject(Api);
  /** What the desk said of the last that was sent. */
  readonly answered = signal<ConsignmentView | null>(null);
  private readonly sent = new SentInTurn<Picked, ConsignmentView>(
    'nockwright-picks',
    ({ part, quantity, scan }, key) => this.api.call(pickRoutes.pick, { params: { part }, body: { quantity, ...(scan === null ? {} : { scan }) }, key }),
    isPicked,
    (view) => this.answered.set(view),
  );
  readonly pending = this.sent.pending;
  readonly refused = this.sent.refused;

  add(part: number, quantity: string, scan: string | null): void {
    this.sent.add({ part, quantity, scan });
  }

  /** How much of a part is picked by what is still to be sent; null: nothing of it is. */
  pickedOf(part: number): string | null {
    return this.pending().findLast(({ what }) => what.part === part)?.what.quantity ?? null;
  }
}

function isPicked(what: unknown): what is Picked {
  const { part, quantity } = (what ?? {}) as Partial<Picked>;
  return typeof part === 'number' && typeof quantity === 'string';
}
