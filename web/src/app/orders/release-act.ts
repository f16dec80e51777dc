import { inject, Injectable } from '@angular/core';
import { MatSnackBar } from '@angular/material/snack-bar';
import { shortDay } from '@nockwright/core/calendar';
import { Session } from '../access';
import { HOLD_NAMES } from './order-holds';
import { OrderStanding } from './order-standing';
import { OrderStore } from './order-store';
import { TypedLines } from './typed/typed-lines';
import { Unsaved } from './typed/unsaved';

const SAID_MS = 5000;

/** Releases the draft, or sends the quote, of a sheet and says what became of it. */
@Injectable()
export class ReleaseAct {
  private readonly store = inject(OrderStore);
  private readonly standing = inject(OrderStanding);
  private readonly typed = inject(TypedLines);
  private readonly unsaved = inject(Unsaved);
  private readonly snack = inject(MatSnackBar);
  private readonly session = inject(Session);

  /** Lines that are under way come first; one that was refused, or stands `unfinished` in the quick line, is seen to before. */
  release(unfinished: () => string | undefined, done: () => void): void {
    this.unsaved.flush();
    this.typed.whenSettled(() => {
      const [refused] = this.typed.rows();
      const left = unfinished();
      if (refused) this.store.fault.set(`“${refused.text}” is not in the order: ${refused.fault} Type it again (↑), or remove it (Esc).`);
      else if (left) this.store.fault.set(`“${left}” is typed and not added: Enter adds it, Esc removes it.`);
      else this.standing.release(() => (done(), this.say()));
    });
  }

  private say() {
    const order = this.store.order();
    if (order?.kind === 'quote' && order.state === 'quoted') {
      const until = shortDay(order.validUntil!, this.session.today());
      this.snack.open(`Sent as quote ${order.number}, valid until ${until}. No goods are committed.`, undefined, { duration: SAID_MS });
    } else if (order?.state !== 'released') this.sayHeld();
    else this.snack.open(`Released as order ${order.number}. Its goods are committed.`, undefined, { duration: SAID_MS });
  }

  /** The order as a whole stands in the gloss then, with why it is held. */
  private sayHeld() {
    const holds = this.store.order()?.holds ?? [];
    const kinds = holds.filter((hold) => !hold.cleared).map((hold) => HOLD_NAMES[hold.kind]);
    this.store.fault.set(`It is held and not released: ${kinds.join(', ')}. Beside the lines stands why, and who may release the hold.`);
  }
}
