import { Secret, TOTP } from 'otpauth';

/** RFC 6238 as programs for time codes have it: SHA-1, six digits, a new code every thirty seconds. */
const PERIOD_SECONDS = 30;
/** A code of the step before or after counts, too: clocks differ (RFC 6238, section 5.2). */
const WINDOW = 1;
/** 160 bits, as RFC 4226, section 4, recommends. */
const KEY_BYTES = 20;

export function newKey(): string {
  return new Secret({ size: KEY_BYTES }).base32;
}

function generator(key: string, login: string): TOTP {
  return new TOTP({ issuer: 'Nockwright', label: login, secret: Secret.fromBase32(key), period: PERIOD_SECONDS });
}

/** The key as a program for time codes reads it: an otpauth address. */
export function keyAddress(key: string, login: string): string {
  return generator(key, login).toString();
}

/**
 * The step of time that a code is of; null where it is none of about now, or of one that was used already: a code counts once
 * (RFC 6238, section 5.2). `at`: milliseconds since 1970; `last`: the step of the code that was used last.
 */
export function stepOf(key: string, code: string, at: number, last: number | null): number | null {
  const token = code.replace(/\s/g, '');
  if (!/^\d{6}$/.test(token)) return null;
  const delta = generator(key, '').validate({ token, timestamp: at, window: WINDOW });
  if (delta === null) return null;
  const step = Math.floor(at / 1000 / PERIOD_SECONDS) + delta;
  return last !== null && step <= last ? null : step;
}
