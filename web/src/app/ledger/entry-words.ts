import type { EntryRow } from '@nockwright/contract/ledger';

/** What an entry is of, in words. */
export const ENTRY_WORDS: Readonly<Record<EntryRow['kind'], string>> = {
  opening: 'Opening balance',
  receipt: 'Receipt',
  shipment: 'Shipment',
  transfer: 'Transfer',
  assembly: 'Assembly',
  count: 'Count',
  adjustment: 'Stock adjustment',
  drop_ship: 'Drop shipment',
  transfer_lost: 'Lost in transit',
  invoice: 'Invoice',
  credit_note: 'Credit note',
  payment: 'Payment',
  payment_reversed: 'Payment reversed',
  settlement: 'Settlement',
  supplier_invoice: 'Supplier invoice',
  supplier_paid: 'Supplier paid',
  refund: 'Refund',
};

/** Where the paper of an entry is seen; null: it has none. */
export function paperLink({ paper }: Pick<EntryRow, 'paper'>): readonly string[] | null {
  switch (paper?.kind) {
    case undefined:
      return null;
    case 'invoice':
      return ['/invoices', paper.key];
    case 'order':
      return ['/orders', paper.key];
    case 'purchase':
      return ['/supply', paper.key];
    case 'transfer':
      return ['/supply/transfers', paper.key];
    case 'assembly':
      return ['/supply/assemblies', paper.key];
    case 'customer':
      return ['/customers', paper.key, 'money'];
    case 'supplier_invoice':
      return ['/supply/invoices', paper.key];
    case 'item':
      return ['/items', paper.key];
  }
}

/** Whether something changed that is posted. */
export const movesMoney = (topic: string): boolean => /^(invoice|shipment|purchase|transfer|assembly|customer|item|firm):/.test(topic);
