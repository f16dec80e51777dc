/** What a card terminal answers. */
export type CardAnswer = { readonly approved: true; readonly reference: string } | { readonly approved: false; readonly why: string };

/**
 * A card terminal that is not there: it approves every amount but those that end in 05, as test terminals decline some amounts to be tried
 * with (common practice, no source).
 */
export function chargeCard(amount: string, key: string): CardAnswer {
  if (/[.]05$/.test(amount)) return { approved: false, why: 'the bank declines the card' };
  return { approved: true, reference: `T${key}` };
}
