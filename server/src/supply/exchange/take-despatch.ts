import type { Finding } from '@nockwright/contract/history';
import { type DespatchAdviceMessage, answerInStockingUnits } from '@nockwright/core/exchange';
import { compareDecimal, plus, sum } from '@nockwright/core/money';
import { recordEvent } from '../../events';
import type { CommandContext } from '../../http/context';
import { Refusal } from '../../http/refusal';
import { confirmDespatch } from '../confirm-despatch';
import { loadPurchaseLines } from '../load-purchase';
import type { Purchase, Taken } from './answered-purchase';
import { unitsOf, lineNamed } from './take-response';

/** Goods have left: for a customer they are shipped, for us they are announced to whoever will take them in. */
export async function takeDespatch(context: CommandContext, purchase: Purchase, advice: DespatchAdviceMessage): Promise<Taken> {
  const { trx } = context;
  const lines = await loadPurchaseLines(trx, purchase.id);
  const units = await unitsOf(context, purchase.supplier, lines);
  const sent = advice.lines.map((row) => {
    const line = lineNamed(lines, row.orderLine, purchase);
    if (compareDecimal(row.quantity, '0') <= 0) throw new Refusal('invalid', `Line ${row.orderLine}: expected a quantity above 0.`);
    const said = answerInStockingUnits(
      { quantity: row.quantity, unit: row.unit ?? null, price: null, priceFor: null, priceUnit: null },
      line.unit,
      units.get(line.item)!,
    );
    if (!said.ok) throw new Refusal('invalid', `Line ${row.orderLine}, ${line.item}: ${said.fault}.`);
    return { ...row, quantity: said.quantity!, line };
  });
  const byLine = new Map<number, string>();
  for (const { line, quantity } of sent) byLine.set(line.id, plus(byLine.get(line.id) ?? '0', quantity));
  const announced = lines.flatMap((line) => (byLine.has(line.id) ? [{ line, quantity: byLine.get(line.id)! }] : []));
  const findings = announced.flatMap(({ line, quantity }): Finding[] =>
    compareDecimal(quantity, line.open) === 0 ? [] : [{ about: 'left_otherwise', lineNo: line.line_no, item: line.item, quantity, awaited: line.open }],
  );
  if (purchase.kind === 'drop_ship') {
    // What was taken back and left all the same is no shipment of the order: somebody has to speak with the customer.
    const unwanted = announced.filter(({ line, quantity }) => compareDecimal(quantity, line.open) > 0);
    if (unwanted.length > 0)
      return { findings: [...findings, await inSpiteOf(context, purchase, advice.number)], lines: unwanted.map(({ line }) => line.order_line_id!) };
    const { version } = await trx.selectFrom('purchase_order').select('version').where('id', '=', purchase.id).executeTakeFirstOrThrow();
    await confirmDespatch(context, purchase.id, {
      version,
      tracking: advice.tracking.slice(0, 80),
      lines: [...byLine].map(([line, quantity]) => ({ line, quantity })),
    });
    return { findings, lines: [] };
  }
  await announce(context, purchase, advice, sent);
  const unasked = announced.some(({ line }) => line.open === '0');
  return { findings: unasked ? [...findings, { about: 'not_awaited' }] : findings, lines: [] };
}

/** Keeps what a supplier says is on its way to a warehouse, for whoever takes it in. */
async function announce(
  context: CommandContext,
  purchase: Purchase,
  advice: DespatchAdviceMessage,
  sent: readonly (DespatchAdviceMessage['lines'][number] & { readonly line: { readonly id: number } })[],
): Promise<void> {
  const { trx } = context;
  const { id } = await trx
    .insertInto('despatch_notice')
    .values({ purchase_id: purchase.id, number: advice.number, day: advice.issueDay, tracking: advice.tracking.slice(0, 200) })
    .returning('id')
    .executeTakeFirstOrThrow();
  await trx
    .insertInto('despatch_notice_line')
    .values(sent.map(({ line, quantity, lot, expires }, at) => ({ notice_id: id, position: at + 1, purchase_line_id: line.id, quantity, lot, expires })))
    .execute();
  await recordEvent(context, {
    kind: 'despatch.came',
    facts: {
      supplier: purchase.supplier_name,
      purchase: purchase.number,
      quantity: sum(sent.map((row) => row.quantity)),
      lines: new Set(sent.map(({ line }) => line.id)).size,
      message: advice.number,
      tracking: advice.tracking.slice(0, 200),
    },
    subjects: [
      { kind: 'purchase', key: purchase.id },
      { kind: 'supplier', key: purchase.supplier },
    ],
  });
}

/** Goods left for a customer although nothing more of them was ordered. */
export async function inSpiteOf(context: CommandContext, purchase: Purchase, number: string): Promise<Finding> {
  const order = await context.trx
    .selectFrom('sales_order')
    .innerJoin('customer', 'customer.id', 'sales_order.customer_id')
    .select(['sales_order.number', 'customer.name'])
    .where('sales_order.id', '=', purchase.order_id!)
    .executeTakeFirstOrThrow();
  await recordEvent(context, {
    kind: 'despatch.unasked',
    facts: { supplier: purchase.supplier_name, purchase: purchase.number, message: number },
    subjects: [
      { kind: 'purchase', key: purchase.id },
      { kind: 'supplier', key: purchase.supplier },
      { kind: 'order', key: purchase.order_id! },
    ],
  });
  return { about: 'customer_unaware', customer: order.name, order: order.number! };
}
