import { parseDay, type IsoDay } from '@nockwright/core/calendar';
import type { Amount, Decimal, Quantity, UnitPrice } from '@nockwright/core/money';
import Joi from 'joi';

/**
 * What crosses the wire, said once: a shape is a Joi schema that also knows its TypeScript type, so that the check at
 * the edge, the types on both sides and the OpenAPI page cannot drift apart.
 */
export interface Shape<T> {
  readonly schema: Joi.Schema;
  /** Every place of it that not every role sees. */
  readonly seals: readonly Seal[];
  /** Never set: carries the type only. */
  readonly type?: T;
}

/** What not every role sees. */
export type Secret = 'cost' | 'margin' | 'credit';

/** Where in a value something is sealed: names of fields, `*` for each of a list. */
export interface Seal {
  readonly path: readonly string[];
  readonly secret: Secret;
  /** What those get who do not see it. */
  readonly instead: null | readonly [];
}

/** The TypeScript type of a shape. */
export type Of<S> = S extends Shape<infer T> ? T : never;

interface Optional<T> extends Shape<T | undefined> {
  readonly optional: true;
}

type Fields = Readonly<Record<string, Shape<unknown>>>;
type OptionalKeys<F extends Fields> = { [K in keyof F]: F[K] extends Optional<unknown> ? K : never }[keyof F];
type ObjectOf<F extends Fields> = { readonly [K in Exclude<keyof F, OptionalKeys<F>>]: Of<F[K]> } & {
  readonly [K in OptionalKeys<F>]?: Exclude<Of<F[K]>, undefined>;
};

/** What is expected, where a value does not fit: said the same way for every shape. */
const WORDS = {
  'any.required': 'missing',
  'alternatives.match': 'expected one of its forms',
  'alternatives.types': 'expected one of its forms',
  'alternatives.one': 'expected one of its forms',
  'any.only': 'expected one of {#valids}',
  'any.invalid': 'expected a day that exists',
  'object.base': 'expected an object',
  'object.unknown': 'is not known here',
  'array.base': 'expected a list',
  'array.min': 'expected at least {#limit}',
  'array.max': 'expected at most {#limit}',
  'string.base': 'expected text',
  'string.empty': 'expected some text',
  'string.min': 'expected some text',
  'string.max': 'expected at most {#limit} characters',
  'string.guid': 'expected a UUID',
  'string.isoDate': 'expected a moment, ISO 8601',
  'string.pattern.name': 'expected {#name}',
  'string.email': 'expected an address as name@place.example',
  'string.base64': 'expected base64',
  'number.base': 'expected a number',
  'number.integer': 'expected a whole number',
  'number.unsafe': 'expected a smaller number',
  'number.min': 'expected {#limit} or more',
  'number.max': 'expected {#limit} or less',
  'boolean.base': 'expected true or false',
};

const shape = <T>(schema: Joi.Schema, seals: readonly Seal[] = []): Shape<T> => ({ schema, seals });

const within = (step: string, { seals }: Shape<unknown>): readonly Seal[] => seals.map((seal) => ({ ...seal, path: [step, ...seal.path] }));

/**
 * The shape with our words for what does not fit. To be said once, of the outermost: Joi merges the words of every schema
 * that has some for each value it looks at, which takes longer than looking.
 */
export const inWords = <T>({ schema, seals }: Shape<T>): Shape<T> => shape(schema.messages(WORDS), seals);

/** Whether a value is what a shape says. */
export const fits = (shape: Shape<unknown>, value: unknown): boolean => shape.schema.validate(value, { convert: false }).error === undefined;

/** Text of at least one character, spaces around it taken off. */
export const text = (most = 200): Shape<string> => shape(Joi.string().trim().min(1).max(most).pattern(NO_CONTROL, 'text without control characters'));

/** Text that may be empty. */
export const note = (most = 2000): Shape<string> => shape(Joi.string().trim().allow('').max(most).pattern(NO_NUL, 'text without NUL'));

/** Text as it was pasted, with the spaces and line breaks around it. */
export const pasted = (most: number): Shape<string> => shape(Joi.string().allow('').max(most).pattern(NO_NUL, 'text without NUL'));

/** A password or key: taken as it is. */
export const secret = (most = 200): Shape<string> => shape(Joi.string().min(1).max(most).pattern(NO_NUL, 'text without NUL'));

/** A code of an item, customer, warehouse or supplier; `code<ItemCode>()` where it is known of which. */
export const code = <T extends string = string>(): Shape<T> =>
  shape(
    Joi.string()
      .max(40)
      .pattern(/^[A-Za-z0-9][A-Za-z0-9._/-]*$/, 'a code'),
  );

/** A whole number; a row's id, a count of days. */
export const integer = (least = 0, most = 2_147_483_647): Shape<number> => shape(Joi.number().integer().min(least).max(most));

/** Any number of days or shares in a reply. */
export const number = (): Shape<number> => shape(Joi.number());

/** The id of a row; `id<OrderId>()` where it is known of which. */
export const id = <T extends number = number>(): Shape<T> => shape(integer(1).schema);

/** A decimal as text, any sign, as replies carry amounts and quantities. */
export const decimal = <T extends Decimal = Decimal>(): Shape<T> => shape(Joi.string().pattern(/^-?\d+(\.\d+)?$/, 'a decimal'));

/** A quantity above 0 with at most nine digits before and four after the point, as text. */
export const quantity = (): Shape<Quantity> =>
  shape(Joi.string().pattern(/^(?!0+(\.0*)?$)\d{1,9}(\.\d{1,4})?$/, 'a quantity above 0 with at most four decimals'));

/** A quantity that may be 0: what is still to come, what was counted. */
export const awaited = (): Shape<Quantity> => shape(Joi.string().pattern(/^\d{1,9}(\.\d{1,4})?$/, 'a quantity with at most four decimals'));

/** A unit price or cost, 0 or more, at most four decimals, as text. */
export const unitPrice = (): Shape<UnitPrice> => shape(Joi.string().pattern(/^\d{1,9}(\.\d{1,4})?$/, 'a price with at most four decimals'));

/** An amount of money, 0 or more, at most four decimals, as text. */
export const amount = (): Shape<Amount> => shape(Joi.string().pattern(/^\d{1,9}(\.\d{1,4})?$/, 'an amount with at most four decimals'));

/** A day that exists, `YYYY-MM-DD`, from 2000 to 2999. */
export const day = (): Shape<IsoDay> =>
  shape(
    Joi.string()
      .pattern(/^2\d{3}-\d{2}-\d{2}$/, 'a day YYYY-MM-DD')
      .custom((value: string, helpers) => (parseDay(value) === null ? helpers.error('any.invalid') : value)),
  );

/** An address mail can be sent to. */
export const email = (): Shape<string> => shape(Joi.string().trim().max(200).email({ tlds: false }));

/** Signs of base64 that are looked at with one expression: over millions of them it would run out of stack. */
const CHUNK = 65_536;

function isBase64(text: string): boolean {
  const body = text.replace(/={1,2}$/, '');
  if (text.length % 4 !== 0) return false;
  for (let at = 0; at < body.length; at += CHUNK) if (!/^[A-Za-z0-9+/]*$/.test(body.slice(at, at + CHUNK))) return false;
  return true;
}

/** A file's content in base64, of at most so many bytes. What is too long is not looked at. */
export function content(bytes: number): Shape<string> {
  const most = Math.ceil(bytes / 3) * 4;
  return shape(
    Joi.string()
      .max(most)
      .custom((value: string, helpers) => (value.length > most || isBase64(value) ? value : helpers.error('string.base64'))),
  );
}

/** A moment, ISO 8601 with zone. */
export const moment = (): Shape<string> => shape(Joi.string().isoDate());

export const flag = (): Shape<boolean> => shape(Joi.boolean());

export const uuid = (): Shape<string> => shape(Joi.string().guid());

/** Exactly one of these words. */
export const oneOf = <const T extends string>(...words: readonly T[]): Shape<T> => shape(Joi.string().valid(...words));

/** Arrays whose length is looked at before anything in them. */
const Lists = Joi.extend((joi: Joi.Root) => ({
  type: 'array',
  base: joi.array(),
  // What the type itself refuses ends the matter: no rule looks at an item.
  validate(value: unknown, { schema, error }: Joi.CustomHelpers) {
    const most = (schema as unknown as { $_getRule(name: string): { args: { limit: number } } | undefined }).$_getRule('max')?.args.limit;
    return Array.isArray(value) && most !== undefined && value.length > most ? { value, errors: [error('array.max', { limit: most })] } : { value };
  },
})) as Joi.Root;

export const list = <T>(item: Shape<T>, least = 0, most = 5000): Shape<readonly T[]> =>
  shape(Lists.array().items(item.schema).min(least).max(most), within('*', item));

/** A value that only roles see whose work needs it; null for the others. */
export const sealed = <T>(secret: Secret, inner: Shape<T>): Shape<T | null> => shape(inner.schema.allow(null), [{ path: [], secret, instead: null }]);

/** A list of what only roles see whose work needs it; empty for the others. */
export const sealedList = <T>(secret: Secret, inner: Shape<T>): Shape<readonly T[]> => shape(list(inner).schema, [{ path: [], secret, instead: [] }]);

export const nullable = <T>(inner: Shape<T>): Shape<T | null> => shape(inner.schema.allow(null), inner.seals);

export const optional = <T>(inner: Shape<T>): Optional<T> => ({ schema: inner.schema.optional(), seals: inner.seals, optional: true });

/** One of several shapes. */
export const alternatives = <S extends readonly Shape<unknown>[]>(...shapes: S): Shape<Of<S[number]>> =>
  shape(
    Joi.alternatives()
      .try(...shapes.map((one) => one.schema))
      .match('one'),
    shapes.flatMap((one) => one.seals),
  );

/** Any JSON value: what an event keeps of before and after. */
export const anything = (): Shape<unknown> => shape(Joi.any());

export function object<F extends Fields>(fields: F): Shape<ObjectOf<F>> {
  const keys = Object.fromEntries(Object.entries(fields).map(([name, field]) => [name, 'optional' in field ? field.schema : field.schema.required()]));
  return shape(
    Joi.object(keys),
    Object.entries(fields).flatMap(([name, field]) => within(name, field)),
  );
}

const NO_CONTROL = /^[^\u0000-\u001f\u007f]*$/u;
const NO_NUL = /^[^\u0000]*$/u;
