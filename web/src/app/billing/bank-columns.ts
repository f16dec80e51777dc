import type { BankEntryView } from '@nockwright/contract/billing';
import { amountInWords, type ListColumn } from '../paper';

const likely = ({ proposals: [first] }: BankEntryView) => (first ? first.name : '');
/** What becomes of a movement: waits, and how sure it is, or is done. */
export const stateOf = (row: BankEntryView) =>
  row.state === 'booked'
    ? 'booked'
    : row.state === 'set_aside'
      ? 'set aside'
      : row.direction === 'out'
        ? 'went out'
        : row.proposals[0]?.sure
          ? 'sure'
          : row.proposals.length > 0
            ? 'doubtful'
            : 'unknown';

/** Columns of the list of movements. */
export const BANK_COLUMNS: readonly ListColumn<BankEntryView>[] = [
  { id: 'day', name: 'Day', text: (row) => row.day, sort: (row) => row.day },
  { id: 'party', name: 'Payer', text: (row) => row.party, sort: (row) => row.party },
  { id: 'text', name: 'Text', text: (row) => [row.reference, row.text].filter(Boolean).join(' '), from: 720 },
  {
    id: 'amount',
    name: 'Amount',
    figure: true,
    text: (row) => `${row.direction === 'out' ? '−' : ''}${amountInWords(row.amount)}`,
    sort: (row) => Number(row.amount),
  },
  { id: 'customer', name: 'Customer', text: (row) => row.customer?.name ?? likely(row), sort: (row) => row.customer?.name ?? likely(row), from: 560 },
  { id: 'state', name: 'State', text: stateOf, sort: stateOf },
];
