import { parseDay, parseLocalTime } from '../calendar';
import { toScaled } from './quantity';

/** The rows of a list; a row that is no object is reported and stands as null. Null where the list is missing or no list. */
export function rows(book: Fields, name: string, report: Report): readonly (Fields | null)[] | null {
  const list = book[name];
  if (!Array.isArray(list)) {
    report(name, missingOr(list, 'a list'));
    return null;
  }
  return list.map((row: unknown, at) => {
    if (isObject(row)) return row;
    report(`${name}[${at}]`, missingOr(row, 'an object'));
    return null;
  });
}

export function identify(list: readonly (Fields | null)[] | null, name: string, report: Report): Ids {
  if (!list) return null;
  const ids = new Map<string, Fields>();
  list.forEach((row, at) => {
    if (!row) return;
    const id = row['id'];
    if (typeof id !== 'string') report(`${name}[${at}].id`, missingOr(id, 'text'));
    else if (ids.has(id)) report(`${name}[${at}].id`, `${show(id)} stands twice`);
    else ids.set(id, row);
  });
  return ids;
}

export function reference(row: Fields, field: string, path: string, ids: Ids, what: string, report: Report): Fields | null {
  const id = row[field];
  if (typeof id !== 'string') report(`${path}.${field}`, missingOr(id, 'text'));
  else if (ids && !ids.has(id)) report(`${path}.${field}`, `there is no ${what} ${show(id)}`);
  else return ids?.get(id) ?? null;
  return null;
}

export function quantity(row: Fields, field: string, path: string, report: Report): number | null {
  const value = row[field];
  if (typeof value !== 'number') report(`${path}.${field}`, missingOr(value, 'a number'));
  else if (!(value > 0) || !Number.isFinite(value)) report(`${path}.${field}`, `expected more than 0, got ${show(value)}`);
  else {
    const scaled = toScaled(value);
    if (scaled === null) report(`${path}.${field}`, `expected at most four decimals, got ${show(value)}`);
    return scaled;
  }
  return null;
}

export function wholeDays(row: Fields, field: string, path: string, report: Report) {
  const value = row[field];
  if (typeof value !== 'number') report(`${path}.${field}`, missingOr(value, 'a number'));
  else if (!Number.isInteger(value) || value < 0) report(`${path}.${field}`, `expected a whole number of days, 0 or more, got ${show(value)}`);
}

export function flag(row: Fields, field: string, path: string, report: Report) {
  const value = row[field];
  if (value !== undefined && typeof value !== 'boolean') report(`${path}.${field}`, `expected true or false, got ${show(value)}`);
}

export function localTime(row: Fields, field: string, prefix: string, report: Report) {
  const value = row[field];
  if (typeof value !== 'string') report(`${prefix}${field}`, missingOr(value, 'a local time'));
  else if (parseLocalTime(value) === null) report(`${prefix}${field}`, `expected a local time YYYY-MM-DDTHH:MM, got ${show(value)}`);
}

export function checkDay(value: unknown, path: string, report: Report) {
  if (typeof value !== 'string' || parseDay(value) === null) report(path, `expected a day YYYY-MM-DD, got ${show(value)}`);
}

export function isObject(value: unknown): value is Fields {
  return typeof value === 'object' && value !== null && !Array.isArray(value);
}

export function missingOr(value: unknown, expected: string) {
  return value === undefined ? 'missing' : `expected ${expected}, got ${show(value)}`;
}

export function show(value: unknown) {
  const text = JSON.stringify(value) ?? String(value);
  return text.length > 60 ? `${text.slice(0, 57)}...` : text;
}

export type Fields = Readonly<Record<string, unknown>>;
export type Report = (path: string, message: string) => void;
/** Known ids of a list and the row of each; null where the list itself is missing, so that no reference can be judged. */
export type Ids = ReadonlyMap<string, Fields> | null;
