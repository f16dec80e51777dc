import type { Quantity, UnitPrice } from '@nockwright/core/money';
import { shortDay, type IsoDay } from '@nockwright/core/calendar';
import { alternatives, day, decimal, integer, note, nullable, object, oneOf, text, type Of } from '../shape';
import { count, lineChange, lineChangeWords } from './parts';

const line = { lineNo: integer(1), item: text() };
const quantity = { quantity: decimal<Quantity>() };

/** What of a supplier's message is not as ordered, whom it hurts, or why nothing was done with it. */
export const finding = alternatives(
  object({ about: oneOf('nothing_expected'), ...line }),
  object({ about: oneOf('not_taken'), ...line, ...quantity }),
  object({ about: oneOf('offered_instead'), ...line, theirs: text() }),
  object({ about: oneOf('remark'), lineNo: nullable(integer(1)), item: nullable(text()), words: note() }),
  object({ about: oneOf('day_passed'), ...line, day: day() }),
  object({ about: oneOf('more_than_customer'), ...line, ...quantity }),
  object({ about: oneOf('changed'), ...line, ...lineChange }),
  object({ about: oneOf('margin'), ...quantity, order: text(), lineNo: integer(1), before: nullable(decimal()), after: nullable(decimal()) }),
  object({ about: oneOf('received_only') }),
  object({ about: oneOf('conditional') }),
  object({ about: oneOf('over_ordered'), ...line, ...quantity, more: decimal<Quantity>() }),
  object({ about: oneOf('cost_apart'), ...line, cost: decimal<UnitPrice>(), was: decimal<UnitPrice>(), percent: decimal() }),
  object({
    about: oneOf('cost_outside'),
    ...line,
    cost: decimal<UnitPrice>(),
    was: decimal<UnitPrice>(),
    percent: decimal(),
    least: decimal<UnitPrice>(),
    most: decimal<UnitPrice>(),
  }),
  object({ about: oneOf('day_apart'), ...line, day: day(), was: day(), days: integer(0) }),
  object({ about: oneOf('left_otherwise'), ...line, ...quantity, awaited: decimal() }),
  object({ about: oneOf('not_awaited') }),
  object({ about: oneOf('customer_unaware'), customer: text(), order: text() }),
  object({ about: oneOf('lost'), ...quantity, item: text(), order: text() }),
  object({ about: oneOf('at_risk'), ...quantity, item: text(), order: text(), day: day() }),
  object({ about: oneOf('more'), count: integer(1) }),
  /** A reader's own words for a file it could not read; and what was written before there were findings. */
  object({ about: oneOf('words'), words: note() }),
);
export type Finding = Of<typeof finding>;

/** A finding as a sentence. Days are written as seen from `today`. */
export function findingWords(row: Finding, today: IsoDay): string {
  const of = 'lineNo' in row && row.lineNo !== null && 'item' in row ? `Line ${row.lineNo}, ${row.item}: ` : '';
  switch (row.about) {
    case 'nothing_expected':
      return `${of}nothing more of it is expected, their response changes nothing`;
    case 'not_taken':
      return `${of}they do not take the ${row.quantity}`;
    case 'offered_instead':
      return `${of}they offer their ${row.theirs} instead`;
    case 'remark':
      return of ? `${of}“${row.words}”` : `They write: “${row.words}”`;
    case 'day_passed':
      return `${of}they name ${shortDay(row.day, today)}, which has passed; the day is left as it is`;
    case 'more_than_customer':
      return `${of}they would ship ${row.quantity}, more than our customer ordered; the quantity is left as it is`;
    case 'changed':
      return `${of}${lineChangeWords(row, today)}`;
    case 'margin':
      return `margin on ${row.quantity} of order ${row.order}/${row.lineNo}: ${percentWords(row.after)}, was ${percentWords(row.before)}`;
    case 'received_only':
      return 'They have the order, and have not said yet what they make of it';
    case 'conditional':
      return 'They agree on conditions that the file does not name: ask them';
    case 'over_ordered':
      return `${of}they would send ${row.quantity}, ${row.more} more than was ordered`;
    case 'cost_apart':
      return `${of}they ask ${row.cost} each instead of ${row.was}, more than ${row.percent} % apart`;
    case 'cost_outside':
      return `${of}they ask ${row.cost} each instead of ${row.was}, more than ${row.percent} % from the ${row.least === row.most ? row.most : `${row.least} to ${row.most}`} that was cleared`;
    case 'day_apart':
      return `${of}they name ${shortDay(row.day, today)} instead of ${shortDay(row.was, today)}, more than ${count(row.days, 'day')} apart`;
    case 'left_otherwise':
      return `${of}${row.quantity} have left, ${row.awaited} were expected`;
    case 'not_awaited':
      return 'Nothing more was expected: receive what comes, or have it sent back';
    case 'customer_unaware':
      return `It goes to ${row.customer}, order ${row.order}, who do not expect it: call them, and agree with the supplier who takes it back`;
    case 'lost':
      return `${row.quantity} ${row.item} promised to order ${row.order} have lost their supply and wait again`;
    case 'at_risk':
      return `${row.quantity} ${row.item} promised to order ${row.order} for ${shortDay(row.day, today)} are at risk`;
    case 'more':
      return `and ${count(row.count, 'more promise')}`;
    case 'words':
      return row.words;
  }
}

function percentWords(margin: string | null): string {
  return margin === null ? 'none' : `${margin} %`;
}
