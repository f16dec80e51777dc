import type { PurchaseId } from '@nockwright/core/ids';
import type { MessageView, PurchaseView } from '@nockwright/contract/supply';
import { escapeLike, searchWords, type Db, type Database } from '../../database';
import { sql, type ExpressionBuilder } from 'kysely';
import { notFound } from '../../http/refusal';

const PAGE = 100;

/** What the supplier was told of a purchase, and what they said: papers, mails, files, and what has left them. */
export async function loadTold(db: Db, purchaseId: PurchaseId): Promise<Pick<PurchaseView, 'notices' | 'papers' | 'mails' | 'messages'>> {
  const [notices, noticed, papers, mails, messages] = await Promise.all([
    db.selectFrom('despatch_notice').selectAll().where('purchase_id', '=', purchaseId).where('done', '=', false).orderBy('id').execute(),
    db
      .selectFrom('despatch_notice_line')
      .innerJoin('despatch_notice', 'despatch_notice.id', 'despatch_notice_line.notice_id')
      .selectAll('despatch_notice_line')
      .where('purchase_id', '=', purchaseId)
      .where('done', '=', false)
      .orderBy('position')
      .execute(),
    db.selectFrom('document').select(['id', 'made_at']).where('purchase_id', '=', purchaseId).orderBy('id', 'desc').execute(),
    db.selectFrom('mail').select(['id', 'subject', 'recipients', 'state', 'made_at']).where('purchase_id', '=', purchaseId).orderBy('id', 'desc').execute(),
    selectMessages(db).where('exchange_message.purchase_id', '=', purchaseId).execute(),
  ]);
  return {
    notices: notices.map(({ id, number, day, tracking }) => ({
      id,
      number,
      day,
      tracking,
      lines: noticed
        .filter((line) => line.notice_id === id)
        .map((line) => ({ line: line.purchase_line_id, quantity: line.quantity, lot: line.lot, expires: line.expires })),
    })),
    papers: papers.map(({ id, made_at }) => ({ id, at: made_at.toISOString() })),
    mails: mails.map(({ made_at, ...mail }) => ({ ...mail, at: made_at.toISOString() })),
    messages: messages.map(messageView),
  };
}

export interface MessageFilter {
  readonly search?: string;
  readonly which?: 'look' | 'all';
  readonly before?: number;
}

/** Messages of all suppliers, newest first, a page at a time, and how many somebody has to look at. */
export async function listMessages(db: Db, { search, which = 'look', before }: MessageFilter) {
  const words = searchWords(search);
  const rows = await selectMessages(db)
    .where((eb) => eb.and([...(which === 'look' ? [needsLook(eb)] : []), ...(before === undefined ? [] : [eb('exchange_message.id', '<', before)])]))
    .where((eb) =>
      eb.and(
        words.map((word) => {
          const like = `%${escapeLike(word)}%`;
          return eb.or([
            eb(sql`lower(supplier.name)`, 'like', like),
            eb(sql`lower(coalesce(purchase_order.number, ''))`, 'like', like),
            eb(sql`lower(exchange_message.number)`, 'like', like),
            eb(sql`lower(exchange_message.findings::text)`, 'like', like),
          ]);
        }),
      ),
    )
    .limit(PAGE + 1)
    .execute();
  const { count } = await db
    .selectFrom('exchange_message')
    .select(({ fn }) => fn.countAll().as('count'))
    .where('needs_look', '=', true)
    .executeTakeFirstOrThrow();
  return {
    rows: rows.slice(0, PAGE).map(messageView),
    next: rows.length > PAGE ? rows[PAGE - 1]!.id : null,
    toLook: Number(count),
  };
}

const needsLook = (eb: ExpressionBuilder<Database, 'exchange_message'>) => eb('exchange_message.needs_look', '=', true);

/** One message. */
export async function readMessage(db: Db, id: number): Promise<MessageView> {
  const row = await selectMessages(db).where('exchange_message.id', '=', id).executeTakeFirst();
  if (!row) throw notFound(`message ${id}`);
  return messageView(row);
}

function selectMessages(db: Db) {
  return db
    .selectFrom('exchange_message')
    .innerJoin('supplier', 'supplier.code', 'exchange_message.supplier')
    .leftJoin('purchase_order', 'purchase_order.id', 'exchange_message.purchase_id')
    .select([
      'exchange_message.id',
      'exchange_message.supplier as supplier',
      'supplier.name as supplier_name',
      'direction',
      'exchange_message.kind',
      'exchange_message.purchase_id',
      'purchase_order.number as purchase_number',
      'exchange_message.number',
      'exchange_message.state',
      'findings',
      'hurts',
      'needs_look',
      'at',
    ])
    .orderBy('exchange_message.id', 'desc');
}

function messageView(row: Awaited<ReturnType<ReturnType<typeof selectMessages>['execute']>>[number]): MessageView {
  return {
    id: row.id,
    supplier: { code: row.supplier, name: row.supplier_name },
    direction: row.direction,
    kind: row.kind,
    purchase: row.purchase_id === null ? null : { id: row.purchase_id, number: row.purchase_number! },
    number: row.number,
    state: row.state,
    findings: row.findings,
    hurts: row.hurts,
    needsLook: row.needs_look,
    at: row.at.toISOString(),
  };
}
