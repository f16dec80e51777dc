import type { CustomerId } from '@nockwright/core/ids';
import type { FieldFault } from '@nockwright/contract/shape';
import type { PricedPart } from '@nockwright/core/pricing';
import type { Trx } from '../database';
import { Refusal } from '../http/refusal';
import type { OrderLineRecord } from './load-order';
import { isAgreed, lookUpPrices } from './look-up-prices';

/** Refuses where a line of a quote stands at another price than is looked up now: a price changes only where that is accepted. */
export async function checkPrices(
  trx: Trx,
  order: Parameters<typeof lookUpPrices>[1] & { readonly customer_id: CustomerId },
  lines: readonly OrderLineRecord[],
  today: string,
): Promise<void> {
  const prices = await lookUpPrices(trx, order, lines, today);
  const { must_name_contract: mustName } = await trx
    .selectFrom('customer')
    .select('must_name_contract')
    .where('id', '=', order.customer_id)
    .executeTakeFirstOrThrow();
  const errors = otherPrices(lines, prices, mustName && order.contract_id === null);
  if (errors.length > 0) throw pricesChanged(errors);
}

/** The lines that stand at another price than is looked up for them. `unnamed`: the customer orders under a contract, and none is named. */
export function otherPrices(lines: readonly OrderLineRecord[], prices: ReadonlyMap<number, readonly PricedPart[]>, unnamed: boolean): readonly FieldFault[] {
  const errors = lines.flatMap((line) => {
    const parts = prices.get(line.id)!;
    if (isAgreed(line, parts)) return [];
    const now = parts.map(({ quantity, price }) => `${quantity} at ${price.price} (${price.source})`).join(' and ');
    return [
      {
        field: `lines[${line.line_no - 1}].price`,
        message: `line ${line.line_no}, ${line.item}: agreed at ${line.price} (${line.price_source}), it is now ${now}`,
      },
    ];
  });
  return unnamed ? [{ field: 'contract', message: 'this customer orders under a contract: name it' }, ...errors] : errors;
}

export function pricesChanged(errors: readonly FieldFault[]): Refusal {
  return new Refusal('changed', `${errors.map((error) => error.message).join('. ')}. Nothing was done: accept the price or keep the one agreed.`, errors);
}
