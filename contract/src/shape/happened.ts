import { anything, id, list, moment, note, object, text, type Of } from './shape';

/** Something that happened: who did what, when, and what was before and after. */
const happened = object({ id: id(), at: moment(), who: text(), what: text(1000), why: note(), before: anything(), after: anything() });
export type Happened = Of<typeof happened>;

export const history = list(happened);
