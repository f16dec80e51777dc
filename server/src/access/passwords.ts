import { hash, verify } from '@node-rs/argon2';
import { invalid } from '../http/refusal';

/** Source: OWASP ASVS 4.0.3, 2.1.1 and 2.1.2: at least twelve characters, and no less than 128 allowed. Any character counts, spaces, too. */
const LEAST = 12;
const MOST = 128;
/** So many different ones at least: `aaaaaaaaaaaa` is no password. */
const LEAST_DIFFERENT = 5;

/** The hash that is kept of a new password (Argon2id). Refuses one that is too short, or is made of the user's name. `field`: where it stands in the request. */
export async function hashNew(password: string, user: { readonly login: string; readonly name: string }, field: string): Promise<string> {
  const signs = [...password.normalize('NFC')];
  if (signs.length < LEAST) throw invalid(field, `expected at least ${LEAST} characters`);
  if (signs.length > MOST) throw invalid(field, `expected at most ${MOST} characters`);
  if (new Set(signs).size < LEAST_DIFFERENT) throw invalid(field, `expected at least ${LEAST_DIFFERENT} different characters`);
  const own = [user.login, ...user.name.split(/\s+/)].filter((word) => word.length > 3).map((word) => word.toLowerCase());
  const left = own.reduce((rest, word) => rest.replaceAll(word, ''), password.toLowerCase());
  if (left.length < LEAST / 2) throw invalid(field, 'expected more than the user’s own name');
  return hash(password.normalize('NFC'));
}

/** Verified against when there is no such user, so that the answer takes as long and tells nothing. */
const decoy = hash('nobody has this password');

export async function isRight(kept: string | undefined, password: string): Promise<boolean> {
  const right = await verify(kept ?? (await decoy), password.normalize('NFC'));
  return right && kept !== undefined;
}
