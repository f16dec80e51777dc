import { inWords, object, type Shape } from './shape';

export type Role = 'coordinator' | 'warehouse' | 'finance' | 'manager';
export const ROLES: readonly Role[] = ['coordinator', 'warehouse', 'finance', 'manager'];

/** Who works with prices, costs and customers' accounts. It is the rule: what the warehouse may do as well says so. */
export const OFFICE: readonly Role[] = ['coordinator', 'finance', 'manager'];

export type Method = 'GET' | 'POST' | 'PUT' | 'DELETE';

/**
 * One route of the API: what it takes, who may call it and what it gives. Every method but GET changes something and
 * takes an `Idempotency-Key` header, so that a request sent twice is done once.
 */
export interface Route<P, Q, B, R> {
  readonly method: Method;
  /** As OpenAPI writes it: `/orders/{order}`. Below `/api`. */
  readonly path: string;
  readonly summary: string;
  /** `public`: without log-in. */
  readonly roles: readonly Role[] | 'public';
  readonly params: Shape<P>;
  readonly query: Shape<Q>;
  readonly body: Shape<B> | null;
  readonly reply: Shape<R> | null;
  /** The media type of the reply. Default JSON. */
  readonly media?: string;
}

export type AnyRoute = Route<unknown, unknown, unknown, unknown>;
export type ParamsOf<T> = T extends Route<infer P, infer _Q, infer _B, infer _R> ? P : never;
export type QueryOf<T> = T extends Route<infer _P, infer Q, infer _B, infer _R> ? Q : never;
export type BodyOf<T> = T extends Route<infer _P, infer _Q, infer B, infer _R> ? B : never;
export type ReplyOf<T> = T extends Route<infer _P, infer _Q, infer _B, infer R> ? R : never;

const NOTHING = object({});
type Nothing = Record<never, never>;

interface Parts<P, Q, B, R> {
  readonly summary: string;
  readonly roles?: readonly Role[] | 'public';
  readonly params?: Shape<P>;
  readonly query?: Shape<Q>;
  readonly body?: Shape<B>;
  readonly reply?: Shape<R>;
  readonly media?: string;
}

function route<P, Q, B, R>(method: Method, path: string, parts: Parts<P, Q, B, R>): Route<P, Q, B, R> {
  const { summary, roles = OFFICE, params = NOTHING as Shape<P>, query = NOTHING as Shape<Q>, body = null, reply = null, media } = parts;
  return {
    method,
    path,
    summary,
    roles,
    params: inWords(params),
    query: inWords(query),
    body: body && inWords(body),
    reply: reply && inWords(reply),
    ...(media ? { media } : {}),
  };
}

export const get = <R, P = Nothing, Q = Nothing>(path: string, parts: Parts<P, Q, never, R>) => route('GET', path, parts);
export const post = <R, P = Nothing, B = Nothing>(path: string, parts: Parts<P, Nothing, B, R>) => route('POST', path, parts);
export const put = <R, P = Nothing, B = Nothing>(path: string, parts: Parts<P, Nothing, B, R>) => route('PUT', path, parts);
export const remove = <R, P = Nothing>(path: string, parts: Parts<P, Nothing, never, R>) => route('DELETE', path, parts);
