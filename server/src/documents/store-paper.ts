import type { OrderView } from '@nockwright/contract/orders';
import { sql, type RawBuilder } from 'kysely';
import type { CommandContext } from '../http/context';
import type { PurchaseView } from '@nockwright/contract/supply';
import type { PaperKind, ToldOrder } from './order-paper';
import type { ToldPackingList } from './packing-paper';
import type { ToldPurchase } from './purchase-paper';

/** Keeps what is told on a paper as it is told; the paper is drawn from it whenever it is asked for. Gives its id. */
export async function storePaper({ trx, now }: CommandContext, kind: PaperKind, order: OrderView, revision = 1): Promise<number> {
  const { id } = await trx
    .insertInto('document')
    .values({ kind, order_id: order.id, made_at: now.instant, content: withFirm({ order, day: now.today, revision } satisfies Omit<ToldOrder, 'firm'>) })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}

/**
 * Keeps another revision of the acknowledgement, where what it says has changed since the last: after a raise, a cut or a
 * cancellation the customer holds a paper that is no longer so. Nothing where the order has none.
 */
export async function reviseAcknowledgement(context: CommandContext, order: OrderView): Promise<void> {
  const { trx } = context;
  const papers = await trx
    .selectFrom('document')
    .select('content')
    .where('order_id', '=', order.id)
    .where('kind', '=', 'acknowledgement')
    .orderBy('id', 'desc')
    .execute();
  const last = papers[0]?.content as ToldOrder | undefined;
  if (!last || saidOn(last.order) === saidOn(order)) return;
  await storePaper(context, 'acknowledgement', order, papers.length + 1);
}

/** What an acknowledgement says of the goods: a day alone is told by a call. */
function saidOn({ lines }: OrderView): string {
  return JSON.stringify(lines.map(({ lineNo, item, quantity, unit, cancelled, price }) => [lineNo, item, quantity, unit, cancelled, price]));
}

/** Keeps what is ordered from a supplier as it is sent. Gives its id. */
export async function storePurchasePaper({ trx, now, user }: CommandContext, purchase: PurchaseView): Promise<number> {
  const content = withFirm({ purchase, day: now.today, by: user.name } satisfies Omit<ToldPurchase, 'firm'>);
  const { id } = await trx
    .insertInto('document')
    .values({ kind: 'purchase', purchase_id: purchase.id, made_at: now.instant, content })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}

/** Keeps the packing list of a consignment as it leaves. Gives its id. */
export async function storePackingList({ trx, now }: CommandContext, consignment: number, told: Omit<ToldPackingList, 'firm'>): Promise<number> {
  const { id } = await trx
    .insertInto('document')
    .values({ kind: 'packing_list', consignment_id: consignment, made_at: now.instant, content: withFirm(told) })
    .returning('id')
    .executeTakeFirstOrThrow();
  return id;
}

/** What is told, with the firm as it is now. */
function withFirm(told: object): RawBuilder<string> {
  return sql<string>`${JSON.stringify(told)}::jsonb || jsonb_build_object('firm', (select to_jsonb(firm) from firm))`;
}
