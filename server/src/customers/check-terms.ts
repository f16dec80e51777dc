import type { CommandContext } from '../http/context';
import { Refusal } from '../http/refusal';

/** To be paid later than was agreed is a credit: the manager alone gives it. `agreed`: days net as they stand. */
export function checkTerms({ user }: Pick<CommandContext, 'user'>, agreed: number, days: number): void {
  if (days <= agreed || user.role === 'manager') return;
  throw new Refusal('not-allowed', `Their terms are ${agreed} days net. The manager gives longer ones: ${days} days.`, [
    { field: 'body.termsDays', message: `expected at most ${agreed}, got ${days}` },
  ]);
}
