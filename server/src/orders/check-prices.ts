import type { Trx } from '../database';
import { Refusal } from '../http/refusal';
import type { OrderLineRecord } from './load-order';
import { isAgreed, lookUpPrices } from './look-up-prices';

/** Refuses where a line stands at another price than is looked up now: a price changes only where that is accepted. */
export async function checkPrices(
  trx: Trx,
  order: Parameters<typeof lookUpPrices>[1] & { readonly customer_id: number },
  lines: readonly OrderLineRecord[],
  today: string,
) {
  const prices = await lookUpPrices(trx, order, lines, today);
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
  const { must_name_contract: mustName } = await trx
    .selectFrom('customer')
    .select('must_name_contract')
    .where('id', '=', order.customer_id)
    .executeTakeFirstOrThrow();
  if (mustName && order.contract_id === null) errors.unshift({ field: 'contract', message: 'this customer orders under a contract: name it' });
  if (errors.length > 0)
    throw new Refusal('changed', `${errors.map((error) => error.message).join('. ')}. Nothing was done: accept the price or keep the one agreed.`, errors);
}
