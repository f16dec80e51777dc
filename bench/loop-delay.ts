import { existsSync, readFileSync, rmSync } from 'node:fs';
import type { Figure } from './measure';
import { setting } from './setting';

/** The longest that anybody may be kept waiting by another's request. */
const MOST_MS = 100;

/** How long a server with the loop meter kept its event loop from its next turn since it was last asked, in milliseconds. NOCK_PID: its process; NOCK_LOOP_FILE: where the meter writes. */
export async function delays(): Promise<{ readonly worst: number; readonly usual: number }> {
  const file = setting('NOCK_LOOP_FILE');
  rmSync(file, { force: true });
  process.kill(Number(setting('NOCK_PID')), 'SIGUSR2');
  while (!existsSync(file) || readFileSync(file, 'utf8') === '') await new Promise((resolve) => setTimeout(resolve, 20));
  return JSON.parse(readFileSync(file, 'utf8')) as { worst: number; usual: number };
}

export function worstDelay(when: string, worst: number): Figure {
  return { name: `the event loop’s worst delay ${when}`, ratio: worst / MOST_MS, against: `${MOST_MS} ms, the most that it may be`, target: 1 };
}
