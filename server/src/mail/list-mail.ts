import type { SupplierCode } from '@nockwright/core/ids';
import type { MailList, MailRow } from '@nockwright/contract/mail';
import type { Selectable } from 'kysely';
import { escapeLike, hasWord, searchWords, type Database, type Db } from '../database';

const PAGE = 60;

/** What was mailed, newest first, a page at a time. */
export async function listMail(
  db: Db,
  {
    search,
    customer,
    state = 'all',
    before,
  }: { readonly search?: string; readonly customer?: number; readonly state?: MailRow['state'] | 'all'; readonly before?: number },
): Promise<MailList> {
  let query = mailRows(db);
  if (state !== 'all') query = query.where('mail.state', '=', state);
  if (customer !== undefined) query = query.where('sales_order.customer_id', '=', customer);
  if (before !== undefined) query = query.where('mail.id', '<', before);
  for (const word of searchWords(search)) {
    const like = `%${escapeLike(word)}%`;
    query = query.where(({ or, eb, fn }) =>
      or([
        eb(fn<string>('lower', ['mail.subject']), 'like', like),
        hasWord('customer.search', word),
        eb(fn<string>('lower', ['purchase_order.number']), 'like', like),
        eb(fn<string>('lower', ['supplier.name']), 'like', like),
        eb(fn<string>('lower', ['sales_order.number']), 'like', like),
        eb(fn<string>('array_to_string', ['mail.recipients', eb.val(' ')]), 'like', like),
      ]),
    );
  }
  const rows = await query.limit(PAGE + 1).execute();
  const counts = await db
    .selectFrom('mail')
    .select(({ fn }) => ['state', fn.countAll<string>().as('mails')])
    .where('state', '<>', 'sent')
    .groupBy('state')
    .execute();
  const count = (wanted: MailRow['state']) => Number(counts.find((row) => row.state === wanted)?.mails ?? 0);
  const page = rows.slice(0, PAGE).map(asMailRow);
  return { rows: page, next: rows.length > PAGE ? page.at(-1)!.id : null, waiting: count('waiting'), failed: count('failed') };
}

/** Mails with what they are about, newest first. */
export function mailRows(db: Db) {
  return db
    .selectFrom('mail')
    .leftJoin('sales_order', 'sales_order.id', 'mail.order_id')
    .leftJoin('customer', 'customer.id', 'sales_order.customer_id')
    .leftJoin('purchase_order', 'purchase_order.id', 'mail.purchase_id')
    .leftJoin('supplier', 'supplier.code', 'purchase_order.supplier')
    .leftJoin('document', 'document.id', 'mail.document_id')
    .innerJoin('app_user', 'app_user.id', 'mail.made_by')
    .selectAll('mail')
    .select(['sales_order.number', 'customer.name as customer', 'purchase_order.number as purchase', 'supplier.name as supplier'])
    .select(['document.kind as paper_kind', 'app_user.name as by'])
    .orderBy('mail.id', 'desc');
}

type Row = Selectable<Database['mail']> & {
  readonly number: string | null;
  readonly customer: string | null;
  readonly purchase: string | null;
  readonly supplier: SupplierCode | null;
  readonly paper_kind: NonNullable<MailRow['paper']>['kind'] | null;
  readonly by: string;
};

export function asMailRow(row: Row): MailRow {
  return {
    id: row.id,
    about:
      row.order_id === null
        ? { kind: 'purchase', id: row.purchase_id!, label: row.purchase!, name: row.supplier! }
        : { kind: 'order', id: row.order_id, label: row.number ?? `draft ${row.order_id}`, name: row.customer! },
    paper: row.document_id === null ? null : { id: row.document_id, kind: row.paper_kind! },
    recipients: row.recipients,
    fates: row.fates,
    subject: row.subject,
    state: row.state,
    attempts: row.attempts,
    fault: row.fault,
    by: row.by,
    at: row.made_at.toISOString(),
    sentAt: row.sent_at?.toISOString() ?? null,
  };
}
