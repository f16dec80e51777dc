import { HttpClient, HttpErrorResponse } from '@angular/common/http';
import { inject, Injectable } from '@angular/core';
import type { AnyRoute, FieldFault, Problem, Route } from '@nockwright/contract/shape';
import { catchError, map, retry, tap, throwError, timer, type Observable } from 'rxjs';
import { Reach } from './reach';

/** What a request was refused with, in words for the person who made it. */
export class ProblemError extends Error {
  readonly status: number;
  /** `/problems/code-needed`: which of the refusals it is. */
  readonly type: string;
  readonly errors: readonly FieldFault[];

  constructor(problem: Pick<Problem, 'title' | 'status' | 'detail' | 'errors'> & { readonly type?: string }) {
    super(inWords(problem.detail ?? problem.title, problem.errors ?? []));
    this.name = 'ProblemError';
    this.status = problem.status;
    this.type = problem.type ?? '';
    this.errors = problem.errors ?? [];
  }
}

interface Input<P, Q, B> {
  readonly params?: P;
  readonly query?: Q;
  readonly body?: B;
  /** Of a change: the key it had before, so that it is not done twice; a new one where absent. */
  readonly key?: string;
}

const OFFLINE: Problem = {
  type: '/problems/offline',
  title: 'Nockwright does not answer',
  status: 503,
  detail: 'Nockwright does not answer. What you typed is kept; try again in a moment.',
};
const RETRIES = 3;
const RETRY_MS = 400;

/** Sends requests of the contract. The body is checked by the contract's own schema before it leaves. */
@Injectable({ providedIn: 'root' })
export class Api {
  private readonly http = inject(HttpClient);
  private readonly reach = inject(Reach);

  call<P, Q, B, R>(route: Route<P, Q, B, R>, input: Input<P, Q, B> = {}): Observable<R> {
    const faults = route.body ? check(route.body.schema, input.body) : [];
    if (faults.length > 0)
      return throwError(
        () =>
          new ProblemError({
            title: 'Some fields are wrong',
            status: 422,
            detail: faults.map((fault) => `${fault.field}: ${fault.message}`).join('; '),
            errors: faults,
          }),
      );
    const change = route.method !== 'GET' && route.roles !== 'public';
    // One key for all attempts: a change whose answer got lost is not done twice.
    const headers: Record<string, string> = change ? { 'Idempotency-Key': input.key ?? newKey() } : {};
    return this.http.request(route.method, addressOf(route, input), { body: route.body ? (input.body ?? {}) : undefined, headers, observe: 'response' }).pipe(
      tap({ next: () => this.reach.answered(), error: (error: unknown) => isOffline(error) && !isBusy(error) && this.reach.lost() }),
      retry({ count: RETRIES, delay: (error: unknown, attempt) => (isOffline(error) ? timer(RETRY_MS * attempt) : throwError(() => error)) }),
      map((response) => response.body as R),
      catchError((error: unknown) => throwError(() => toProblemError(error))),
    );
  }
}

/** What is wrong, with the fields as people name them: `Line 2, open: …` for `body.lines[1].open: …`. */
function inWords(detail: string, errors: readonly FieldFault[]): string {
  const named = errors.reduce((words, { field }) => words.replaceAll(`${field}: `, fieldInWords(field)), detail);
  // A message that names its field itself says it once.
  return named.replace(/\b([A-Z][a-z]+): \1 /g, '$1 ');
}

function fieldInWords(field: string): string {
  const words = field
    .replace(/^(body|query|params)(\.|$)/, '')
    .replace(/s(?:\[(\d+)\]|\.(\d+)(?=\.|$))/g, (_, at?: string, after?: string) => ` ${Number(at ?? after) + 1}`)
    .replaceAll('.', ', ')
    .replace(/[a-z](?=[A-Z])/g, '$& ')
    .toLowerCase();
  return words === '' ? '' : `${words[0]!.toUpperCase()}${words.slice(1)}: `;
}

function addressOf<P, Q, B, R>(route: Route<P, Q, B, R>, { params, query }: Input<P, Q, B>): string {
  const path = route.path.replace(/\{(\w+)\}/g, (_, name: string) => encodeURIComponent(String((params as Record<string, unknown>)[name])));
  const search = new URLSearchParams();
  for (const [name, value] of Object.entries(query ?? {})) if (value !== undefined && value !== '') search.set(name, String(value));
  const text = search.toString();
  return `/api${path}${text ? `?${text}` : ''}`;
}

/** What the contract says against a body before it is sent, by field. */
export function bodyFaults(route: AnyRoute, body: unknown): FieldFault[] {
  return route.body ? check(route.body.schema, body) : [];
}

function check(
  schema: { validate(value: unknown, options: object): { error?: { details: { path: (string | number)[]; message: string }[] } | undefined } },
  body: unknown,
): FieldFault[] {
  const { error } = schema.validate(body ?? {}, { abortEarly: false, convert: false, errors: { label: false } });
  return (error?.details ?? []).map(({ path, message }) => ({ field: path.join('.') || 'body', message }));
}

/** `crypto.randomUUID` is there only on secure origins; random bytes are everywhere. */
export function newKey(): string {
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = (bytes[6]! & 0x0f) | 0x40;
  bytes[8] = (bytes[8]! & 0x3f) | 0x80;
  const hex = Array.from(bytes, (byte) => byte.toString(16).padStart(2, '0')).join('');
  return `${hex.slice(0, 8)}-${hex.slice(8, 12)}-${hex.slice(12, 16)}-${hex.slice(16, 20)}-${hex.slice(20)}`;
}

function isOffline(error: unknown): boolean {
  return error instanceof HttpErrorResponse && (error.status === 0 || error.status === 502 || error.status === 503 || error.status === 504);
}

/** The desk can be reached, and has too much to do just now: it says so itself. */
function isBusy(error: unknown): boolean {
  return error instanceof HttpErrorResponse && (error.error as Problem | null)?.type === '/problems/busy';
}

function toProblemError(error: unknown): ProblemError {
  if (!(error instanceof HttpErrorResponse)) return new ProblemError({ title: String(error), status: 500 });
  if (isOffline(error) && !isBusy(error)) return new ProblemError(OFFLINE);
  const problem = error.error as Problem | null;
  return new ProblemError(problem?.title ? problem : { title: `The server answered ${error.status}`, status: error.status });
}
