import { anything, id, list, moment, note, nullable, object, optional, text, type Of } from './shape';

/**
 * Something that happened: who did what, when, and what was before and after. `kind` and `facts` say what; an event from
 * before there were kinds says it in `what`. `why` is the reason its doer gave; `cause` what else brought it about.
 */
/** What was done that brought something else about, as its kind and facts; `order` where the facts do not say to which. */
export const cause = object({ kind: text(), facts: anything(), order: optional(text()), note: optional(note()) });

const happened = object({
  id: id(),
  at: moment(),
  who: text(),
  kind: nullable(text()),
  facts: anything(),
  what: nullable(text(20_000)),
  why: note(),
  cause: nullable(cause),
  before: anything(),
  after: anything(),
});
export type Happened = Of<typeof happened>;

export const history = list(happened);
