import { type Amount, compareDecimal, minus, sum, type Decimal } from '../money';
import { dayNumber, type IsoDay } from '../calendar';

/** What a customer owes or will owe, and how much they may. */
export interface CreditFacts {
  /** Null: no limit. */
  readonly limit: Amount | null;
  /** Open of invoices, those overdue included. */
  readonly unpaid: Decimal;
  readonly shippedNotBilled: Decimal;
  /** Of released orders: neither shipped nor cancelled. */
  readonly openOrders: Decimal;
  readonly overdue: Amount;
  /** The earliest day something overdue was due; null: nothing is overdue. */
  readonly overdueSince: IsoDay | null;
}

/** Exposure = unpaid invoices + shipped not billed + open released orders. Common practice. */
export function exposureOf({ unpaid, shippedNotBilled, openOrders }: CreditFacts): Decimal {
  return sum([unpaid, shippedNotBilled, openOrders]);
}

/** What may still be ordered; null: as much as they want. Below 0 where they are over the limit. */
export function creditLeft(facts: CreditFacts): Decimal | null {
  return facts.limit === null ? null : minus(facts.limit, exposureOf(facts));
}

/** Whether an order of `amount` would take them over their limit. At the limit is not over it. */
export function passesLimit(facts: CreditFacts, amount: Amount): boolean {
  const left = creditLeft(facts);
  return left !== null && compareDecimal(amount, left) > 0;
}

/** For how many days something has been overdue; 0 where nothing is. */
export function daysOverdue({ overdueSince }: CreditFacts, today: IsoDay): number {
  return overdueSince === null ? 0 : dayNumber(today) - dayNumber(overdueSince);
}
