import { Refusal } from './refusal';

/**
 * PostgreSQL has gone, is going, or takes no more connections: classes 08 and 57P, and 53300. Source: PostgreSQL documentation,
 * appendix A, error codes.
 */
const GONE = /^(?:08|57P|53300)/;
/** A statement that took longer than may be, a lock that was not had in time. */
const TOO_LONG = new Set(['57014', '55P03', '25P03']);
/** It takes no connections for the time being: code 55000, which means other things, too. */
const CLOSED = /not currently accepting connections/;
/** What Node.js says of a connection. */
const NO_CONNECTION = new Set(['ECONNREFUSED', 'ECONNRESET', 'EPIPE', 'ETIMEDOUT', 'ENOTFOUND', 'EAI_AGAIN']);
/** What the driver says without a code. */
const LOST = /connection (?:terminated|ended|error|timeout)|timeout (?:exceeded|expired)|not queryable|client has encountered a connection error/i;

/** What PostgreSQL says of a value that it cannot hold: classes 22 of data. */
const NO_VALUE = new Set(['22021', '22P05', '22003', '22007', '22008', '22P02']);

/** A value that no shape has refused and the database cannot hold. */
export function noValueOf(error: unknown): Refusal | null {
  const { code = '' } = error as { code?: string };
  return NO_VALUE.has(code)
    ? new Refusal('invalid', 'A value in it cannot be kept: a number out of range, a day that is none, or a character that is none. Nothing was changed.')
    : null;
}

/**
 * What an error means where it is the database that is away or busy: a 503 that says what to do. Null where it is anything else.
 * Whether the change was done cannot be known when the connection was lost while it was committed: the same key tells.
 */
export function outageOf(error: unknown): Refusal | null {
  const { code = '', message = '' } = error as { code?: string; message?: string };
  if (TOO_LONG.has(code)) return new Refusal('busy', 'It took too long, since much is under way. Nothing was changed: try again in a moment.');
  if (GONE.test(code) || NO_CONNECTION.has(code) || (code === '55000' && CLOSED.test(message)) || (code === '' && LOST.test(message)))
    return new Refusal('unavailable', 'The database cannot be reached. Send it again in a moment, with the same key: what was done already is not done twice.');
  return null;
}
