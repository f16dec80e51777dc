import type { OrderView } from '@nockwright/contract/orders';
import type { CommandContext } from '../http/context';
import type { PurchaseView } from '@nockwright/contract/supply';
import type { PaperKind, ToldOrder } from './order-paper';
import type { ToldPurchase } from './purchase-paper';

/** Keeps what is told on a paper as it is told; the paper is drawn from it whenever it is asked for. Gives its id. */
export async function storePaper({ trx, now }: CommandContext, kind: PaperKind, order: OrderView): Promise<number> {
  const { terms_days: termsDays } = await trx.selectFrom('customer').select('terms_days').where('id', '=', order.customer.id).executeTakeFirstOrThrow();
  const { id } = await trx
    .insertInto('document')
    .values({ kind, order_id: order.id, made_at: now.instant, content: JSON.stringify({ order, termsDays, day: now.today } satisfies ToldOrder) })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}

/** Keeps what is ordered from a supplier as it is sent. Gives its id. */
export async function storePurchasePaper({ trx, now, user }: CommandContext, purchase: PurchaseView): Promise<number> {
  const content = JSON.stringify({ purchase, day: now.today, by: user.name } satisfies ToldPurchase);
  const { id } = await trx
    .insertInto('document')
    .values({ kind: 'purchase', purchase_id: purchase.id, made_at: now.instant, content })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}
