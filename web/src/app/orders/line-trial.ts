import { computed, effect, inject, Injectable, signal } from '@angular/core';
import { toObservable, toSignal } from '@angular/core/rxjs-interop';
import { asLineView, type LineView } from '@nockwright/contract/orders';
import { readQuickLine, type LineWish } from '@nockwright/core/orders';
import { unitName } from '@nockwright/core/units';
import { of, switchMap } from 'rxjs';
import { Session } from '../access';
import { OrderStore } from './order-store';
import { Unsaved } from './typed/unsaved';
import { WhatIfDesk } from './what-if-desk';

/** A line of the order that is being changed in its row: what is typed, and the line as it would be. */
@Injectable()
export class LineTrial {
  private readonly session = inject(Session);
  private readonly store = inject(OrderStore);
  private readonly whatIf = inject(WhatIfDesk);
  private readonly unsaved = inject(Unsaved);

  /** The line whose field is open. */
  readonly editing = signal<number | null>(null);
  /** What the field opens with. */
  readonly opened = signal('');
  /** What stood there when the change began, and what is typed there now. */
  readonly before = signal('');
  readonly typed = signal('');
  private readonly edited = computed(() => this.store.order()?.lines.find((line) => line.id === this.editing()) ?? null);
  private readonly wish = computed((): LineWish | null => {
    const line = this.edited();
    if (!line || this.typed() === this.before()) return null;
    const { quantity, unit, day } = this.read(line, this.typed());
    if (quantity === null) return null;
    const requestedDay = day?.day ?? line.requestedDay;
    const { price, priceSource: source, priceTrail: trail, contractLine } = line;
    return {
      quantity,
      unit: unit?.code ?? line.unit,
      warehouse: line.warehouse,
      replaces: line.lineNo,
      pin: line.pin,
      agreed: { unit: line.unit, price, source, trail, contractLine },
      ...(requestedDay ? { requestedDay } : {}),
    };
  });
  private readonly trial = toSignal(
    toObservable(this.wish).pipe(switchMap((wish) => (wish ? this.whatIf.try(this.store.order()!, this.edited()!.item, wish) : of(null)))),
    { initialValue: null },
  );
  /** The line as it would be, with its own ways and note; null while none is changed. */
  readonly changed = computed((): LineView | null => {
    const [edited, trial] = [this.edited(), this.trial()];
    return edited && this.wish() && trial?.ok ? { ...asLineView(trial.line), id: edited.id, ...keptOf(edited) } : null;
  });

  constructor() {
    effect(() => {
      const [order, edited] = [this.store.order(), this.edited()];
      if (order && edited) this.whatIf.prepare(order, edited.item);
    });
  }

  /** The line as it stood when the change began. */
  private begun: LineView | null = null;

  start(line: LineView): void {
    this.begun = line;
    this.before.set(`${line.quantity} ${unitName(line.unit, line.quantity)}`);
    this.open(line.id, this.before());
  }

  private open(line: number, text: string): void {
    this.opened.set(text);
    this.typed.set(text);
    this.editing.set(line);
  }

  /** Sends what is typed; what is refused stands in the field again, unless another is being changed by then. Gives false, with the fault told, where it is no quantity. */
  take(line: LineView, text: string, refused: () => void): boolean {
    const { quantity, unit, day } = this.read(line, text);
    if (quantity === null) {
      this.store.fault.set(`“${text}” is no quantity: type it as 20 tray fri.`);
      return false;
    }
    const begun = this.begun?.id === line.id ? this.begun : line;
    this.editing.set(null);
    const saved = () => this.unsaved.set(`line.${line.id}.quantity`, '', null);
    if (text.trim() === this.before()) {
      saved();
      return true;
    }
    this.store.changeLine(begun, { quantity, ...(unit ? { unit: unit.code } : {}), ...(day ? { requestedDay: day.day } : {}) }, saved, () => {
      if (this.editing() !== null) return;
      this.open(line.id, text);
      refused();
    });
    return true;
  }

  /** The item stays; the rest is read as on the quick line. */
  private read(line: LineView, text: string) {
    return readQuickLine(`${line.item} ${text}`, this.session.today());
  }
}

/** What of a line stays as it is while its quantity, unit or day is changed. */
function keptOf({ routes, note, pin, shipTo, alternative, alternativeTo, accepted, quoted }: LineView) {
  return { routes, note, pin, shipTo, alternative, alternativeTo, accepted, quoted };
}
