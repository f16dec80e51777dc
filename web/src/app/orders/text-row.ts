import type { TextRead } from '@nockwright/contract/orders';

export type Proposal = TextRead['lines'][number];

/** A proposed line as the coordinator has left it. */
export interface Row {
  readonly proposal: Proposal;
  /** The reading taken; null: none yet. */
  readonly picked: number | null;
}

/** A reading as a line to add. */
export function wishOf({ item, unit, quantity, day }: Proposal['readings'][number]) {
  return { item, unit, quantity: quantity!, ...(day === null ? {} : { requestedDay: day }) };
}

/** What is sure or likely is taken; of several nothing is. */
export function asRow(proposal: Proposal): Row {
  return { proposal, picked: proposal.certainty === 'sure' || proposal.certainty === 'likely' ? 0 : null };
}
