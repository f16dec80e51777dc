import { counterRoutes } from '@nockwright/contract/counter';
import { compareDecimal } from '@nockwright/core/money';
import type { BasketView } from '@nockwright/contract/counter';
import type { BodyOf } from '@nockwright/contract/shape';
import type { OrderId } from '@nockwright/core/ids';
import type { Hono } from 'hono';
import { drawReceiptTask } from '../documents';
import { loadFirm } from '../firm';
import type { CommandContext, Services } from '../http/context';
import { mountCommand, mountQuery } from '../http/mount';
import { invalid, Refusal } from '../http/refusal';
import { readOrder, setPrice } from '../orders';
import { dropBasket, listBaskets, lockBasket, readBasket, startBasket } from './baskets';
import { mailReceipt } from './mail-receipt';
import { payBasket } from './pay-basket';
import { scanBasket } from './scan-basket';

export function mountCounter(app: Hono, services: Services): void {
  mountQuery(app, services, counterRoutes.listBaskets, ({ db }, { query }) => listBaskets(db, query.warehouse));
  mountCommand(app, services, counterRoutes.startBasket, (context, { body }) => startBasket(context, body));
  mountQuery(app, services, counterRoutes.readBasket, ({ db }, { params }) => readBasket(db, params.order));
  mountCommand(app, services, counterRoutes.scanBasket, (context, { params, body }) => scanBasket(context, params.order, body));
  mountCommand(app, services, counterRoutes.priceBasket, (context, { params, body }) => priceBasket(context, params.order, body));
  mountCommand(app, services, counterRoutes.payBasket, (context, { params, body }) => payBasket(context, params.order, body));
  mountCommand(app, services, counterRoutes.mailReceipt, (context, { params, body }) => mailReceipt(context, services.work, params.order, body.email));
  mountCommand(app, services, counterRoutes.dropBasket, (context, { params }) => dropBasket(context, params.order));
  mountQuery(app, services, counterRoutes.readReceipt, async ({ db, now, user }, { params }) => {
    const basket = await readBasket(db, params.order);
    if (basket.state !== 'paid') throw new Refusal('conflict', 'There is a receipt once the basket is paid.');
    const pdf = await services.work.run(drawReceiptTask, { firm: await loadFirm(db), day: now.today, basket }, user.id);
    return new Response(new Uint8Array(pdf), {
      headers: { 'Content-Type': 'application/pdf', 'Content-Disposition': `inline; filename="receipt-${basket.number}.pdf"` },
    });
  });
}

/** Sets the price of a line by hand. Below the floor margin a manager would have to approve it: nobody waits for that at a counter. */
async function priceBasket(context: CommandContext, order: OrderId, { line, price, reason }: BodyOf<typeof counterRoutes.priceBasket>): Promise<BasketView> {
  const { trx, now } = context;
  await lockBasket(trx, order);
  const { version } = await readBasket(trx, order);
  if (compareDecimal(price, '0') <= 0) throw invalid('body.price', `expected a price above 0, got ${price}`);
  await setPrice(context, order, line, { version, pin: { kind: 'manual', price, reason } });
  const view = await readOrder(trx, now, order);
  const set = view.lines.find((row) => row.id === line);
  if (set && set.marginPercent !== null && view.floor !== null && compareDecimal(set.marginPercent, view.floor) < 0)
    throw new Refusal('conflict', `At ${price} the margin is below the floor. Ask a manager, or take a higher price.`);
  return readBasket(trx, order);
}
