import type { FieldFault, Problem } from '@nockwright/contract/shape';

/** What can be refused, and the status each is answered with. */
const KINDS = {
  'bad-request': { status: 400, title: 'The request cannot be read' },
  'not-logged-in': { status: 401, title: 'Log in first' },
  'wrong-log-in': { status: 401, title: 'Name or password is wrong' },
  'code-needed': { status: 401, title: 'A time code is needed' },
  'password-due': { status: 403, title: 'Choose a password first' },
  'not-allowed': { status: 403, title: 'Your role may not do this' },
  'wrong-origin': { status: 403, title: 'The request comes from another site' },
  'not-found': { status: 404, title: 'There is no such thing' },
  changed: { status: 409, title: 'It has changed since you read it' },
  conflict: { status: 409, title: 'It is not in a state for this' },
  'too-large': { status: 413, title: 'The request is too large' },
  invalid: { status: 422, title: 'Some fields are wrong' },
  'too-many': { status: 429, title: 'Too many attempts' },
  busy: { status: 503, title: 'The desk is busy' },
  unavailable: { status: 503, title: 'The desk cannot be reached' },
} as const satisfies Record<string, { status: number; title: string }>;

export type RefusalKind = keyof typeof KINDS;

/**
 * An expected no. Thrown by commands and queries so that their transaction is rolled back, and turned into problem
 * details (RFC 9457) in one place.
 */
export class Refusal extends Error {
  readonly kind: RefusalKind;
  readonly errors: readonly FieldFault[];

  constructor(kind: RefusalKind, detail: string, errors: readonly FieldFault[] = []) {
    super(detail);
    this.name = 'Refusal';
    this.kind = kind;
    this.errors = errors;
  }

  get status(): number {
    return KINDS[this.kind].status;
  }

  toProblem(): Problem {
    const { status, title } = KINDS[this.kind];
    return { type: `/problems/${this.kind}`, title, status, detail: this.message, ...(this.errors.length > 0 ? { errors: this.errors } : {}) };
  }
}

/** Refuses with one field at fault. */
export function invalid(field: string, message: string): Refusal {
  return new Refusal('invalid', `${field}: ${message}`, [{ field, message }]);
}

export function notFound(what: string): Refusal {
  return new Refusal('not-found', `There is no ${what}.`);
}
