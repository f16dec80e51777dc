import { amountInWords, compareDecimal, minus, plus, roundMoney, sum, times, type Amount, type Decimal } from '../money';

/**
 * What a customer pays for freight: nothing, so much an order, what the carrier asks, or the carrier directly, by an account of their own.
 * `freeFrom`: from that value of goods on an order pays nothing.
 */
export interface FreightTerms {
  readonly rule: 'included' | 'flat' | 'at_cost' | 'own_account';
  readonly flat: Amount | null;
  readonly freeFrom: Amount | null;
}

/** A shipment of an order that leaves with others as one consignment. */
export interface FreightShipment {
  readonly shipment: number;
  /** The value of the goods of its whole order, in the firm's currency. */
  readonly orderValue: Amount;
  /** Whether an earlier shipment of the same order was charged already. */
  readonly charged: boolean;
  /** In kilograms. */
  readonly weight: Decimal;
}

/**
 * What each shipment of a consignment pays, to the cent. A flat amount is paid once an order: what follows because we had too little is ours to
 * send. What the carrier asks is shared by weight, and the cents add up. Common practice of the trade.
 */
export function freightCharges(terms: FreightTerms, cost: Amount, shipments: readonly FreightShipment[], currency: string): ReadonlyMap<number, Amount> {
  const charges = new Map<number, Amount>();
  const paying = shipments.filter(({ orderValue }) => terms.freeFrom === null || compareDecimal(orderValue, terms.freeFrom) < 0);
  for (const { shipment } of shipments) charges.set(shipment, '0');
  if (terms.rule === 'flat') for (const row of paying) if (!row.charged) charges.set(row.shipment, roundMoney(terms.flat ?? '0', currency));
  if (terms.rule === 'at_cost')
    for (const [shipment, part] of shared(cost, shipments, currency)) if (paying.some((row) => row.shipment === shipment)) charges.set(shipment, part);
  return charges;
}

/** An amount shared by weight: rounded, and what is left of it with the last. */
function shared(cost: Amount, shipments: readonly FreightShipment[], currency: string): (readonly [number, Amount])[] {
  const whole = sum(shipments.map(({ weight }) => weight));
  let given = '0';
  return shipments.map(({ shipment, weight }, at) => {
    const share = compareDecimal(whole, '0') > 0 ? Number(weight) / Number(whole) : 1 / shipments.length;
    const part = at === shipments.length - 1 ? minus(cost, given) : roundMoney(times(cost, share.toFixed(6)), currency);
    given = plus(given, part);
    return [shipment, roundMoney(part, currency)] as const;
  });
}

/** How a customer pays for freight, in words; empty: nothing is charged. */
export function freightWords({ rule, flat, freeFrom }: FreightTerms, account: string, currency: string): string {
  const money = (amount: Amount) => `${amountInWords(roundMoney(amount, currency))} ${currency}`;
  const free = freeFrom === null ? '' : `, free from ${money(freeFrom)}`;
  switch (rule) {
    case 'included':
      return 'Freight is included in the price';
    case 'flat':
      return `Freight ${money(flat ?? '0')} an order${free}`;
    case 'at_cost':
      return `Freight at what the carrier asks${free}`;
    case 'own_account':
      return `Freight on the customer’s own account ${account}`;
  }
}
