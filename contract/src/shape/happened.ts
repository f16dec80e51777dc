import { anything, id, list, moment, note, nullable, object, text, type Of } from './shape';

/**
 * Something that happened: who did what, when, and what was before and after. `kind` and `facts` say what; an event from
 * before there were kinds says it in `what`.
 */
const happened = object({
  id: id(),
  at: moment(),
  who: text(),
  kind: nullable(text()),
  facts: anything(),
  what: nullable(text(20_000)),
  why: note(),
  before: anything(),
  after: anything(),
});
export type Happened = Of<typeof happened>;

export const history = list(happened);
