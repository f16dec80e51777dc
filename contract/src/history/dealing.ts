import type { Quantity } from '@nockwright/core/money';
import { alternatives, decimal, flag, integer, nullable, object, oneOf, text, type Of } from '../shape';

/** What was done with supply that was bound to an order line and is not needed for it any more. */
export const dealing = alternatives(
  object({ did: oneOf('struck'), quantity: decimal<Quantity>(), purchase: text(), beside: nullable(decimal()) }),
  object({ did: oneOf('kept'), quantity: decimal<Quantity>(), purchase: text() }),
  object({ did: oneOf('closed'), quantity: decimal<Quantity>(), purchase: text() }),
  object({ did: oneOf('told'), mailed: flag(), filed: flag() }),
  object({ did: oneOf('waits'), quantity: decimal<Quantity>(), order: text(), lineNo: integer(1) }),
  object({ did: oneOf('stays'), quantity: decimal<Quantity>(), transfer: text(), warehouse: text() }),
  object({ did: oneOf('arrives_free'), quantity: decimal<Quantity>(), transfer: text(), warehouse: text() }),
  object({ did: oneOf('goes_on'), assembly: text() }),
  object({ did: oneOf('given_up'), quantity: decimal<Quantity>(), assembly: text() }),
  /** `rest`: what is still picked of the line; null: nothing. `ended`: nothing else was on the pick. */
  object({ did: oneOf('pick_cut'), pick: text(), rest: nullable(decimal()), ended: flag() }),
);
export type Dealing = Of<typeof dealing>;

export function dealingWords(row: Dealing): string {
  switch (row.did) {
    case 'struck':
      return `${row.quantity} struck off the draft ${row.purchase}${row.beside === null ? '' : `, and ${row.beside} for stock beside`}`;
    case 'kept':
      return `${row.quantity} on purchase ${row.purchase} kept for others`;
    case 'closed':
      return `${row.quantity} of purchase ${row.purchase} closed`;
    case 'told':
      return `the supplier is told ${toldWords(row)}`;
    case 'waits':
      return `${row.quantity} of order ${row.order} line ${row.lineNo} wait again`;
    case 'stays':
      return `${row.quantity} of transfer ${row.transfer} stay at ${row.warehouse}`;
    case 'arrives_free':
      return `transfer ${row.transfer} is on its way: ${row.quantity} come in at ${row.warehouse} for anyone`;
    case 'goes_on':
      return `assembly ${row.assembly} goes on`;
    case 'given_up':
      return `${row.quantity} of assembly ${row.assembly} cancelled, components return to stock`;
    case 'pick_cut':
      if (row.rest !== null) return `pick ${row.pick} lowered to ${row.rest}`;
      return row.ended ? `pick ${row.pick} cancelled` : `line taken off pick ${row.pick}`;
  }
}

export function toldWords({ mailed, filed }: { readonly mailed: boolean; readonly filed: boolean }): string {
  return [...(mailed ? ['by mail'] : []), ...(filed ? ['as a file'] : [])].join(' and ');
}
