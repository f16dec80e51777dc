import { computed, inject, Injectable, signal } from '@angular/core';
import type { LineView, OrderView } from '@nockwright/contract/orders';
import { Session } from '../access';
import { OrderStanding } from './order-standing';
import { OrderStore } from './order-store';
import type { Work } from './order-work';

/** Open lines that leave later than requested or have no day. */
export function shortLines({ state, kind, lines }: OrderView): number {
  if (kind !== 'order' || (state !== 'draft' && state !== 'released')) return 0;
  return lines.filter((line) => line.state === 'late' || line.state === 'uncovered').length;
}

/** Which form stands in the gloss of an order. Each is opened only where what it does is possible; true where it says something. */
@Injectable()
export class OrderForms {
  private readonly store = inject(OrderStore);
  private readonly standing = inject(OrderStanding);
  private readonly maySell = inject(Session).maySell;

  readonly doing = signal<Work | null>(null);
  /** Some line is not done with. */
  readonly open = computed(() => this.store.order()?.lines.some((line) => line.state !== 'done') ?? false);

  begin(what: Work): boolean {
    this.store.fault.set('');
    this.doing.set(what);
    return true;
  }

  lose(): boolean {
    return this.store.order()?.state === 'quoted' && this.maySell() && this.begin('lose');
  }

  cancel(whole: boolean, line: LineView | null): boolean {
    if (!this.released() || !this.open()) return false;
    if (!whole && line === null) {
      this.store.fault.set('Go to the line first (L), then cancel it.');
      return true;
    }
    return this.begin(whole ? 'order' : 'line');
  }

  turn(): boolean {
    return this.released() && this.open() && this.begin('turn');
  }

  /** Options for all short lines together: where more than one is short. */
  combine(): boolean {
    const order = this.store.order();
    return order !== null && shortLines(order) > 1 && this.maySell() && this.begin('combine');
  }

  raise(line: LineView | null): boolean {
    if (!this.released()) return false;
    if (!line || line.state === 'done') {
      this.store.fault.set('Go to an open line first (L), then ask for more of it.');
      return true;
    }
    return this.begin('raise');
  }

  mail(): boolean {
    return this.store.order()?.papers[0] !== undefined && this.maySell() && this.begin('mail');
  }

  /** A quote that is out or was lost is written anew. */
  revise(): boolean {
    const state = this.store.order()?.state;
    if ((state !== 'quoted' && state !== 'lost') || !this.maySell()) return false;
    this.standing.reviseQuote();
    return true;
  }

  openPaper(): boolean {
    const paper = this.store.order()?.papers[0];
    if (!paper) return false;
    window.open(`/api/papers/${paper.id}`, '_blank', 'noopener');
    return true;
  }

  private released(): boolean {
    return this.store.order()?.state === 'released' && this.maySell();
  }
}
