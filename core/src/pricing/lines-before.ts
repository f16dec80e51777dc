import { type Quantity, plus, type Decimal } from '../money';
import type { ContractQuestion } from './contract-offer';

/** A line of the order that comes before the one whose price is asked. */
export interface LineBefore {
  /** The contract line that prices it, and whose that is; null: none. */
  readonly contractLine: number | null;
  readonly contract: number | null;
  readonly stockQuantity: Quantity;
}

/** What decides about a line's contracts once the lines before it have taken theirs. */
export function afterLines(question: ContractQuestion, before: readonly LineBefore[]): ContractQuestion {
  const taken = new Map<number, Decimal>();
  for (const { contractLine, stockQuantity } of before) if (contractLine !== null) taken.set(contractLine, plus(taken.get(contractLine) ?? '0', stockQuantity));
  return {
    ...question,
    inUse: [...new Set([...question.inUse, ...before.flatMap((line) => line.contract ?? [])])],
    offers: question.offers.map((offer) => (taken.has(offer.id) ? { ...offer, used: plus(offer.used, taken.get(offer.id)!) } : offer)),
  };
}
