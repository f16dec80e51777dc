import type { IsoDay } from '../calendar';
import type { Amount } from '../money';

/** A movement on a bank account. */
export interface BankEntry {
  /** What the bank knows it by, within its account: the same movement in two files has the same. */
  readonly key: string;
  readonly day: IsoDay;
  /** Above 0, whichever way it goes. */
  readonly amount: Amount;
  readonly direction: 'in' | 'out';
  /** Who paid, or was paid; empty where the bank does not say. */
  readonly party: string;
  /** Their account. */
  readonly partyAccount: string;
  /** The creditor reference that was given. */
  readonly reference: string;
  readonly text: string;
}

export interface BankStatement {
  /** The account it is of; empty where the file does not say. */
  readonly account: string;
  readonly currency: string;
  readonly entries: readonly BankEntry[];
}
