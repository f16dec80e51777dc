// A run over the whole book on the filled desk, accepted: how long it takes, and how long everybody else is kept waiting by it.
import { randomUUID } from 'node:crypto';
import type { ResequenceRun } from '@nockwright/contract/promise';
import { delays, worstDelay } from './loop-delay';
import type { Figure } from './measure';

const LOOK_MS = 200;
const ACCEPT_MS = 60_000;

export async function measureRun(url: string, cookie: string): Promise<Figure[]> {
  const call = async <R>(method: string, path: string, body?: object): Promise<R> => {
    const headers = { cookie, 'content-type': 'application/json', origin: url, 'idempotency-key': randomUUID() };
    const response = await fetch(`${url}/api${path}`, { method, headers, ...(body ? { body: JSON.stringify(body) } : {}) });
    if (!response.ok) throw new Error(`${method} ${path}: ${response.status} ${await response.text()}`);
    return (await response.json()) as R;
  };
  let run = await call<ResequenceRun>('POST', '/resequence', {});
  while (run.state === 'running') {
    await new Promise((resolve) => setTimeout(resolve, LOOK_MS));
    run = await call<ResequenceRun>('GET', '/resequence');
  }
  const movers = run.ripple.later.length + run.ripple.earlier.length;
  if (run.state !== 'done' || movers === 0) throw new Error(`the run is ${run.state}: ${run.message}; ${movers} lines would move`);
  await delays();
  const before = performance.now();
  await call('POST', `/resequence/${run.id}/accept`, { all: true, lines: [] });
  const accepted = performance.now() - before;
  const { worst } = await delays();
  return [
    {
      name: `a run over the whole book accepted, ${movers.toLocaleString('en')} promises moved`,
      ratio: accepted / ACCEPT_MS,
      against: `${ACCEPT_MS / 1000} s, after which the database ends it`,
      target: 1,
    },
    worstDelay('while it is', worst),
  ];
}
