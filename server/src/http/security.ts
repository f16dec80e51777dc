import type { MiddlewareHandler } from 'hono';
import { MOST_FILE_BYTES } from '@nockwright/contract/documents';
import { bodyLimit } from 'hono/body-limit';
import { NONCE, secureHeaders } from 'hono/secure-headers';
import { Refusal } from './refusal';

const MOST_BYTES = 1_000_000;
/** A file comes as base64 in JSON: a third more than it has, and a little. */
const MOST_BYTES_WITH_FILE = Math.ceil((MOST_FILE_BYTES * 4) / 3) + 2_000;
const FILES = /^\/api\/(?:orders\/\d+|bank|supplier-invoices)\/files$/;

/** The headers of every reply: only our own scripts, fonts and connections, styles with this reply's nonce; framed by nobody. */
export const headers: MiddlewareHandler = secureHeaders({
  contentSecurityPolicy: {
    defaultSrc: ["'none'"],
    scriptSrc: ["'self'"],
    styleSrc: ["'self'", NONCE],
    styleSrcAttr: ["'none'"],
    fontSrc: ["'self'"],
    imgSrc: ["'self'", 'data:'],
    connectSrc: ["'self'"],
    workerSrc: ["'self'"],
    baseUri: ["'self'"],
    formAction: ["'self'"],
    frameAncestors: ["'none'"],
  },
  crossOriginEmbedderPolicy: false,
  referrerPolicy: 'no-referrer',
  // A year; browsers heed it over TLS alone.
  strictTransportSecurity: 'max-age=31536000',
});

/** What is sent to be saved can do nothing where a browser opens it all the same. Comes before the headers, so that it has the last word. */
export const sandboxed: MiddlewareHandler = async (c, next) => {
  await next();
  if (c.res.headers.get('Content-Disposition')?.startsWith('attachment')) c.res.headers.set('Content-Security-Policy', "sandbox; default-src 'none'");
};

/** A form of ours without a script tells where it comes from only if the page may be named to ourselves. Comes before the headers, as `sandboxed`. */
export const namesItself: MiddlewareHandler = async (c, next) => {
  await next();
  c.res.headers.set('Referrer-Policy', 'same-origin');
};

/** A change must come from our own pages. Browsers send Origin with every change; other programs need not. */
export const sameOrigin: MiddlewareHandler = async (c, next) => {
  const origin = c.req.header('Origin');
  if (c.req.method !== 'GET' && c.req.method !== 'HEAD' && origin) {
    const host = URL.canParse(origin) ? new URL(origin).host : null;
    if (host !== c.req.header('Host')) throw new Refusal('wrong-origin', `The request comes from ${origin}.`);
  }
  await next();
};

/** The longest that a request is worked on before it is answered; live events have no end. */
const DEADLINE_MS = 60_000;

/** Answers a request that takes too long. What it does may still be done: its key tells. */
export const deadline: MiddlewareHandler = async (c, next) => {
  if (c.req.path === '/api/live') return next();
  let timer: NodeJS.Timeout | undefined;
  const late = new Promise<never>((_, reject) => {
    timer = setTimeout(
      () => reject(new Refusal('busy', 'It takes too long. Send it again in a moment, with the same key: what was done already is not done twice.')),
      DEADLINE_MS,
    );
  });
  try {
    await Promise.race([next(), late]);
  } finally {
    clearTimeout(timer);
  }
};

const limitTo = (maxSize: number): MiddlewareHandler =>
  bodyLimit({
    maxSize,
    onError: () => {
      throw new Refusal('too-large', `A request has at most ${maxSize} bytes.`);
    },
  });
const usual = limitTo(MOST_BYTES);
const small = limitTo(2_048);
const withFile = limitTo(MOST_BYTES_WITH_FILE);

/** By route: a file, a name and a password, anything else. */
export const limitBody: MiddlewareHandler = (c, next) => (FILES.test(c.req.path) ? withFile : c.req.path === '/api/login' ? small : usual)(c, next);
