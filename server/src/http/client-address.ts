import type { Context } from 'hono';

/**
 * Where a request comes from: who is connected; where that is a proxy of ours (`trusted`), the last address before it that is
 * none of ours. What a stranger writes into the header is never believed.
 */
export function clientAddress(connected: string, forwarded: string | undefined, trusted: readonly string[]): string {
  if (!trusted.includes(connected)) return connected;
  const chain = (forwarded ?? '')
    .split(',')
    .map((address) => address.trim())
    .filter(Boolean);
  return chain.reverse().find((address) => !trusted.includes(address)) ?? connected;
}

export function addressOf(c: Context, trusted: readonly string[]): string {
  const env = c.env as { incoming?: { socket?: { remoteAddress?: string } } } | undefined;
  return clientAddress(env?.incoming?.socket?.remoteAddress ?? 'unknown', c.req.header('X-Forwarded-For'), trusted);
}
