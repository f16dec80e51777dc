import { list, note, nullable, object, optional, integer, text, type Of } from './shape';

const fieldFault = object({
  /** Path of the field: `body.lines[2].quantity`. */
  field: text(),
  /** What was given and what is allowed. */
  message: text(1000),
  /** Of a field that two people changed: what stands there now, and who put it there. Null: nothing. */
  theirs: optional(nullable(note())),
  who: optional(text()),
});

/** An error as every route gives it: problem details, RFC 9457, with the fields at fault. */
export const problem = object({
  type: text(),
  title: text(),
  status: integer(400, 599),
  detail: optional(text(4000)),
  /** The one request it is about: `/requests/` and the number that the log has too. */
  instance: optional(text()),
  errors: optional(list(fieldFault)),
});

export type FieldFault = Of<typeof fieldFault>;
export type Problem = Of<typeof problem>;
