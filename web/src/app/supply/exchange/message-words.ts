import type { Habit, MessageView } from '@nockwright/contract/supply';
import type { Choice } from '../../paper';

const KINDS: Readonly<Record<MessageView['kind'], string>> = {
  order: 'our order',
  cancellation: 'our cancellation',
  order_response: 'supplier response',
  despatch_advice: 'despatch notice',
  unreadable: 'a file we cannot read',
};

/** What a file is, in words. */
export function kindInWords({ kind }: Pick<MessageView, 'kind'>): string {
  return KINDS[kind];
}

/** What became of a file, in words. */
export function stateInWords({ state, needsLook, findings }: Pick<MessageView, 'state' | 'needsLook' | 'findings'>): string {
  if (state === 'waiting') return 'on its way';
  if (state === 'written') return 'sent';
  if (state === 'held') return 'needs a decision';
  if (state === 'refused') return needsLook ? 'refused: review it' : 'refused, reviewed';
  if (findings.length === 0) return 'as ordered';
  return needsLook ? 'not as ordered' : 'reviewed';
}

export const HABIT_CHOICES: readonly Choice<Habit>[] = [
  ['as_asked', 'answers as asked'],
  ['later', 'answers with a later day'],
  ['fewer', 'answers with fewer'],
  ['dearer', 'answers with a higher cost'],
  ['slips', 'agrees, then slips two weeks'],
  ['short_ships', 'agrees, then ships short'],
  ['refuses', 'refuses'],
  ['silent', 'says nothing'],
  ['away', 'is a real partner: left alone'],
];
