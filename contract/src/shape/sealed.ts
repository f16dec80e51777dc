import type { Role } from './route';
import type { Secret, Shape } from './shape';

/** What each role sees of what not everybody sees. Who is not named with a secret gets null in its place, or an empty list. */
export const SEES: Readonly<Record<Role, readonly Secret[]>> = {
  coordinator: ['cost', 'margin', 'credit'],
  finance: ['cost', 'margin', 'credit'],
  manager: ['cost', 'margin', 'credit'],
  warehouse: [],
};

/** Where in a value something is sealed: names of fields, `*` for each of a list. */
export interface Seal {
  readonly path: readonly string[];
  readonly secret: Secret;
  /** What those get who do not see it. */
  readonly instead: null | readonly [];
}

interface Described {
  readonly metas?: readonly { readonly sealed?: Secret; readonly instead?: null | readonly [] }[];
  readonly keys?: Readonly<Record<string, Described>>;
  readonly items?: readonly Described[];
  readonly matches?: readonly { readonly schema?: Described }[];
}

/** Every place of a shape that is sealed. */
export function sealsOf(shape: Shape<unknown>): readonly Seal[] {
  return walk(shape.schema.describe() as Described, []);
}

function walk(described: Described, path: readonly string[]): Seal[] {
  const seal = described.metas?.find((meta) => meta.sealed);
  if (seal) return [{ path, secret: seal.sealed!, instead: seal.instead ?? null }];
  return [
    ...Object.entries(described.keys ?? {}).flatMap(([name, inner]) => walk(inner, [...path, name])),
    ...(described.items ?? []).flatMap((inner) => walk(inner, [...path, '*'])),
    ...(described.matches ?? []).flatMap(({ schema }) => (schema ? walk(schema, path) : [])),
  ];
}

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
