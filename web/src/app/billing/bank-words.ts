import type { BankProposal } from '@nockwright/contract/billing';

/** Why a movement may be of a customer, in words: what names an invoice first. */
export function whyInWords(why: BankProposal['why']): string {
  return why
    .map(({ kind, invoice }) => {
      switch (kind) {
        case 'reference':
          return `the reference of ${invoice}`;
        case 'number':
          return `names ${invoice}`;
        case 'amount':
          return `as much as ${invoice}`;
        case 'account':
          return 'paid from this account before';
        case 'name':
          return 'the same name';
        case 'name_like':
          return 'a name like it';
        case 'all_open':
          return 'as much as all that is open';
      }
    })
    .join(', ');
}

/** Where a payment would go: `I12, I14 in part`. */
export function goesInWords({ settled }: Pick<BankProposal, 'settled'>): string {
  return settled
    .map(({ number, open, amount, discount }) => {
      const whole = Number(amount) + Number(discount) >= Number(open) - 0.0001;
      return `${number}${whole ? (Number(discount) > 0 ? ' less discount' : '') : ' in part'}`;
    })
    .join(', ');
}
