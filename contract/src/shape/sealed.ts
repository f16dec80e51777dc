import type { Role } from './route';
import type { Seal, Secret } from './shape';

/** What each role sees of what not everybody sees. Who is not named with a secret gets null in its place, or an empty list. */
export const SEES: Readonly<Record<Role, readonly Secret[]>> = {
  coordinator: ['cost', 'margin', 'credit'],
  finance: ['cost', 'margin', 'credit'],
  manager: ['cost', 'margin', 'credit'],
  warehouse: [],
};

/** A value without what a role does not see; the value itself where it sees all. */
export function seenBy<T>(role: Role, seals: readonly Seal[], value: T): T {
  const hidden = seals.filter(({ secret }) => !SEES[role].includes(secret));
  return hidden.reduce((left, { path, instead }) => without(left, path, instead) as T, value);
}

function without(value: unknown, [step, ...rest]: readonly string[], instead: Seal['instead']): unknown {
  if (step === undefined) return instead;
  if (value === null || typeof value !== 'object') return value;
  if (Array.isArray(value)) return step === '*' ? value.map((one) => without(one, rest, instead)) : value;
  return step in value ? { ...value, [step]: without((value as Record<string, unknown>)[step], rest, instead) } : value;
}
