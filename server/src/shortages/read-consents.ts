import type { ConsentView } from '@nockwright/contract/shortages';
import type { Db } from '../database';
import type { Now } from '../clock';
import { notFound } from '../http/refusal';

export function asView(row: Awaited<ReturnType<ReturnType<typeof consentRows>['executeTakeFirstOrThrow']>>, today: string): ConsentView {
  const overdue = row.state === 'open' && row.answer_by < today;
  return {
    id: row.id,
    order: row.order_id,
    number: row.number ?? `draft ${row.order_id}`,
    line: row.line_id,
    lineNo: row.line_no,
    item: row.item,
    customer: row.customer,
    customerId: row.customer_id,
    contact: row.contact,
    phone: row.phone,
    quantity: row.quantity,
    parts: row.parts,
    question: row.question,
    state: row.state,
    answerBy: row.answer_by,
    overdue,
    onNo: row.on_no,
    byMail: row.by_mail,
    askedAt: row.asked_at.toISOString(),
    askedBy: row.asker,
    answeredAt: row.answered_at?.toISOString() ?? null,
    answeredHow: row.answered_how,
    taken: row.taken,
    note: row.note,
    outcome: row.outcome,
    needsWork: row.needs_work || overdue,
  };
}

export function consentRows(db: Db) {
  return db
    .selectFrom('consent_request')
    .innerJoin('sales_order', 'sales_order.id', 'consent_request.order_id')
    .innerJoin('customer', 'customer.id', 'sales_order.customer_id')
    .leftJoin('order_line', 'order_line.id', 'consent_request.line_id')
    .innerJoin('app_user', 'app_user.id', 'consent_request.asked_by')
    .selectAll('consent_request')
    .select([
      'sales_order.number',
      'customer.name as customer',
      'customer.id as customer_id',
      'customer.contact',
      'customer.phone',
      'order_line.line_no',
      'order_line.item',
      'app_user.name as asker',
    ])
    .orderBy('consent_request.id', 'desc');
}

export async function readConsent(db: Db, now: Now, id: number): Promise<ConsentView> {
  const row = await consentRows(db).where('consent_request.id', '=', id).executeTakeFirst();
  if (!row) throw notFound(`question ${id}`);
  return asView(row, now.today);
}

/** Questions of an order, or all that wait for an answer or for somebody to act on it: what is overdue or failed first. */
export async function listConsents(db: Db, now: Now, order?: number): Promise<ConsentView[]> {
  const rows =
    order === undefined
      ? consentRows(db).where(({ or, eb }) => or([eb('consent_request.state', '=', 'open'), eb('needs_work', '=', true)]))
      : consentRows(db).where('consent_request.order_id', '=', order);
  const views = (await rows.execute()).map((row) => asView(row, now.today));
  const pressing = (view: ConsentView) => (view.needsWork ? 0 : 1);
  return order === undefined ? views.sort((a, b) => pressing(a) - pressing(b) || (a.answerBy < b.answerBy ? -1 : a.answerBy > b.answerBy ? 1 : 0)) : views;
}
