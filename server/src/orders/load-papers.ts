import type { OrderId } from '@nockwright/core/ids';
import type { FileView, PaperView } from '@nockwright/contract/orders';
import type { Db } from '../database';

/** What was told on paper about an order, newest first, and to whom each was mailed. */
export async function loadPapers(db: Db, orderId: OrderId): Promise<PaperView[]> {
  const [papers, mails] = await Promise.all([
    db.selectFrom('document').select(['id', 'kind', 'made_at']).where('order_id', '=', orderId).orderBy('id', 'desc').execute(),
    db
      .selectFrom('mail')
      .select(['id', 'document_id', 'recipients', 'state', 'made_at'])
      .where('order_id', '=', orderId)
      .where('document_id', 'is not', null)
      .orderBy('id')
      .execute(),
  ]);
  return papers.map(({ id, kind, made_at }) => ({
    id,
    // Only an order's own papers stand under an order (a check of the table).
    kind: kind as Exclude<typeof kind, 'purchase' | 'packing_list' | 'invoice'>,
    at: made_at.toISOString(),
    mails: mails
      .filter((mail) => mail.document_id === id)
      .map((mail) => ({ id: mail.id, recipients: mail.recipients, state: mail.state, at: mail.made_at.toISOString() })),
  }));
}

/** The files attached to an order, without their content. */
export async function loadFiles(db: Db, orderId: OrderId): Promise<FileView[]> {
  const rows = await db
    .selectFrom('order_file')
    .innerJoin('app_user', 'app_user.id', 'order_file.added_by')
    .select(['order_file.id', 'order_file.name', 'media', 'size', 'app_user.name as by', 'added_at'])
    .where('order_id', '=', orderId)
    .orderBy('order_file.id')
    .execute();
  return rows.map(({ added_at, ...file }) => ({ ...file, at: added_at.toISOString() }));
}
