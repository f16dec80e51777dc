import type { NotGoingRow } from '@nockwright/contract/shipping';

const HOLDS = { below_floor: 'margin below the floor', credit: 'credit', customer: 'the customer has to answer' } as const;

/** Why an order does not leave today. */
export function notGoingWords(row: NotGoingRow): string {
  const short = row.lines.map((line) => `${line.missing} ${line.item}`).join(', ');
  switch (row.why) {
    case 'held':
      return `On hold: ${row.holds.map((hold) => HOLDS[hold]).join(', ')}.`;
    case 'draft_purchase':
      return `Purchase order ${row.purchase?.number ?? ''} is not sent yet. Missing: ${short}.`;
    case 'incomplete':
      return `Ships complete, and waits for ${short}.`;
    case 'uncovered':
      return `Not on hand: ${short}.`;
  }
}

/** Where what mends it is done, and what that is called. */
export function mendOf(row: NotGoingRow): {
  readonly words: string;
  readonly link: readonly (string | number)[];
  readonly query?: Readonly<Record<string, string>>;
} {
  if (row.why === 'held') return { words: 'Release hold', link: ['/orders', row.order] };
  if (row.purchase) return { words: `Send ${row.purchase.number}`, link: ['/supply', row.purchase.id] };
  return { words: 'Find options', link: ['/shortages'], query: { lines: row.lines.map((line) => line.line).join(',') } };
}
