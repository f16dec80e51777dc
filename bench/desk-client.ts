import { execFile } from 'node:child_process';
import { randomUUID } from 'node:crypto';
import { promisify } from 'node:util';
import { DEMO_PASSWORD } from '../demo/scenario/partners';
import { setting } from './setting';

const PGBENCH_SECONDS = 6;
const url = setting('NOCK_URL');

/** In a process beside: this one keeps its connections alive. */
export async function pgbench(...words: readonly string[]): Promise<string> {
  return (await promisify(execFile)(setting('NOCK_PGBENCH'), [...words, setting('NOCK_PGBENCH_URL')])).stdout;
}

/** Milliseconds of a transaction, and transactions a second. */
export async function tpcB(clients: number): Promise<{ latency: number; rate: number }> {
  const said = await pgbench('-c', String(clients), '-j', String(Math.min(2, clients)), '-T', String(PGBENCH_SECONDS), '-n');
  return { latency: Number(/latency average = ([\d.]+) ms/.exec(said)![1]), rate: Number(/tps = ([\d.]+)/.exec(said)![1]) };
}

let cookie = '';
/** A request to the desk as its user; throws what it was refused with. */
export async function call<T>(method: string, path: string, body?: object): Promise<T> {
  const response = await fetch(`${url}/api${path}`, {
    method,
    headers: { cookie, ...(body ? { 'content-type': 'application/json', 'idempotency-key': randomUUID() } : {}) },
    ...(body ? { body: JSON.stringify(body) } : {}),
  });
  const reply = (await response.json()) as T & { detail?: string };
  if (!response.ok) throw new Error(`${method} ${path}: ${response.status} ${reply.detail}`);
  return reply;
}

export async function logIn(): Promise<void> {
  const response = await fetch(`${url}/api/login`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify({ login: 'ida', password: DEMO_PASSWORD }),
  });
  cookie = response.headers.get('set-cookie')!.split(';')[0]!;
}
