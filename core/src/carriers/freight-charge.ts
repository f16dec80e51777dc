import { compareDecimal, type Amount } from '../money';

/** What a customer pays for freight, by the rule agreed with them. */
export type FreightRule =
  | { readonly kind: 'free' }
  | { readonly kind: 'flat'; readonly amount: Amount; readonly freeFrom: Amount | null }
  | { readonly kind: 'at_cost'; readonly freeFrom: Amount | null }
  | { readonly kind: 'own_account'; readonly account: string };

/**
 * What a shipment's freight costs the customer. `goods` is what the goods of the shipment are worth, `cost` what the carrier
 * asks. Nothing is charged where they ship on their own account with the carrier, or from a value on.
 */
export function freightCharge(rule: FreightRule, goods: Amount, cost: Amount): Amount {
  if (rule.kind === 'free' || rule.kind === 'own_account') return '0';
  if (rule.freeFrom !== null && compareDecimal(goods, rule.freeFrom) >= 0) return '0';
  return rule.kind === 'flat' ? rule.amount : cost;
}
