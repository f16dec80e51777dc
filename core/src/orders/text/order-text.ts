import type { DaySaid } from './day-said';
import type { Understood } from './quantity';
import type { Wish } from './wanted-day';

/** A line that a text asks for, before its item is looked up. */
export interface TextLine {
  /** Of the text, the first is 1. */
  readonly row: number;
  /** All it was read from. */
  readonly words: string;
  /** Words to find the item by, in their sequence, without those that say nothing of it. */
  readonly item: readonly string[];
  readonly quantity: Understood<string> | null;
  /** All that the number may mean. */
  readonly quantities: readonly string[];
  /** The word behind the number, where it is no unit that is known. */
  readonly behind: string | null;
  readonly unit: Understood<string> | null;
  readonly day: DaySaid | null;
}

/** A part of a text that is no line: what it was taken for. */
export interface TextRest {
  readonly row: number;
  readonly words: string;
  /**
   * `courtesy`: greeting, thanks, signature, what was quoted. `unknown`: it may matter, and a person has to read it. `task`:
   * it takes back, changes, puts off or hangs on something, and a person has to deal with it.
   */
  readonly kind: 'courtesy' | 'unknown' | 'task';
}

export interface OrderText {
  readonly poNumber: Understood<string> | null;
  readonly wish: Wish | null;
  readonly lines: readonly TextLine[];
  readonly rest: readonly TextRest[];
}
