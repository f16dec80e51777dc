import { code, day, decimal, get, id, integer, list, nullable, object, oneOf, text, type Of } from '../shape';

const row = object({
  order: id(),
  number: text(),
  line: id(),
  lineNo: integer(),
  customer: text(),
  item: code(),
  description: text(),
  unit: text(),
  warehouse: code(),
  requested: day(),
  quantity: decimal(),
  value: decimal(),
  /** `waiting`: not promised. `late`: promised, but its supply comes later. `broken`: promised, and no supply is left. */
  kind: oneOf('waiting', 'late', 'broken'),
  promisedDay: nullable(day()),
  /** The day it could leave now. */
  possibleDay: nullable(day()),
  daysLate: nullable(integer()),
});
export type ShortageRow = Of<typeof row>;

export const shortageRoutes = {
  listShortages: get('/shortages', { summary: 'Every released quantity without cover or with late cover, most value first', reply: list(row) }),
};
