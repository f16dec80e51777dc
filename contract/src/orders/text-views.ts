import type { ItemCode } from '@nockwright/core/ids';
import type { Quantity } from '@nockwright/core/money';
import { code, day, decimal, flag, integer, list, note, nullable, object, oneOf, text, type Of } from '../shape';

const understood = { value: text(), words: note(500) };

/** A text as it was understood: lines with their likely readings, and what is no line. */
export const textRead = object({
  poNumber: nullable(object(understood)),
  /** When the whole is wanted: the days that may be meant. One is taken; of several, or of none, a person decides. */
  wish: nullable(object({ days: list(day()), words: note(500), kind: oneOf('ship_by', 'deliver_by'), why: note(500), asks: flag() })),
  lines: list(
    object({
      /** Of the text, the first is 1; and the words it was read from. */
      row: integer(1),
      words: note(2000),
      quantity: nullable(decimal<Quantity>()),
      unit: nullable(text(10)),
      day: nullable(day()),
      /** `choose`: one of the readings has to be picked; `unknown`: nothing that is sold was found. */
      certainty: oneOf('sure', 'likely', 'choose', 'unknown'),
      why: note(500),
      /** What the line may be, the likeliest first: the item, how many of which unit, and its day. */
      readings: list(
        object({
          item: code<ItemCode>(),
          description: text(),
          quantity: nullable(decimal<Quantity>()),
          unit: text(10),
          day: nullable(day()),
          units: list(text(10)),
          usual: flag(),
        }),
      ),
    }),
  ),
  /** `task`: it takes back, changes, puts off or hangs on something: it stays in sight until somebody has dealt with it. */
  rest: list(object({ row: integer(1), words: note(2000), kind: oneOf('courtesy', 'unknown', 'task') })),
});
export type TextRead = Of<typeof textRead>;
