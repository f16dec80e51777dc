import type { MiddlewareHandler } from 'hono';
import { bodyLimit } from 'hono/body-limit';
import { NONCE, secureHeaders } from 'hono/secure-headers';
import { Refusal } from './refusal';

const MOST_BYTES = 1_000_000;

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
});

/** A change must come from our own pages. Browsers send Origin with every change; other programs need not. */
export const sameOrigin: MiddlewareHandler = async (c, next) => {
  const origin = c.req.header('Origin');
  if (c.req.method !== 'GET' && c.req.method !== 'HEAD' && origin) {
    const host = URL.canParse(origin) ? new URL(origin).host : null;
    if (host !== c.req.header('Host')) throw new Refusal('wrong-origin', `The request comes from ${origin}.`);
  }
  await next();
};

export const limitBody: MiddlewareHandler = bodyLimit({
  maxSize: MOST_BYTES,
  onError: () => {
    throw new Refusal('too-large', `A request has at most ${MOST_BYTES} bytes.`);
  },
});
