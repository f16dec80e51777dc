import { anyOf, type Db } from '../database';
import { notFound } from '../http/refusal';
import { paperName, paperPdf, papersPdf, type PaperKind, type ToldOrder } from './order-paper';

/** A paper as it was told. */
export interface Paper {
  readonly kind: PaperKind;
  readonly name: string;
  readonly told: ToldOrder;
}

/** A paper by its id. */
export async function loadPaper(db: Db, id: number): Promise<Paper> {
  const row = await db.selectFrom('document').select(['kind', 'content']).where('id', '=', id).executeTakeFirst();
  if (!row) throw notFound(`paper ${id}`);
  return asPaper(row);
}

/** The newest paper of a kind about an order. */
export async function loadLastPaper(db: Db, kind: PaperKind, orderId: number): Promise<Paper> {
  const row = await db
    .selectFrom('document')
    .select(['kind', 'content'])
    .where('order_id', '=', orderId)
    .where('kind', '=', kind)
    .orderBy('id', 'desc')
    .limit(1)
    .executeTakeFirst();
  if (!row) throw notFound(`${kind.replace('_', ' ')} of this order yet`);
  return asPaper(row);
}

/** The newest paper of each of these orders that has one, in their sequence. */
export async function loadLastPapers(db: Db, orderIds: readonly number[]): Promise<Paper[]> {
  const rows = await db
    .selectFrom('document')
    .select(['order_id', 'kind', 'content'])
    .distinctOn('order_id')
    .where(anyOf('order_id', orderIds))
    .orderBy('order_id')
    .orderBy('id', 'desc')
    .execute();
  if (rows.length === 0) throw notFound('paper of these orders yet');
  const byOrder = new Map(rows.map((row) => [row.order_id, row]));
  return orderIds.flatMap((id) => (byOrder.has(id) ? [asPaper(byOrder.get(id)!)] : []));
}

function asPaper({ kind, content }: { kind: PaperKind; content: object }): Paper {
  const told = content as ToldOrder;
  return { kind, told, name: paperName(kind, told) };
}

/** The file a paper is saved or mailed as: `quote-Q1001-2.pdf`. */
export function paperFileName({ kind, told: { order } }: Paper): string {
  const number = order.number ?? `draft-${order.id}`;
  return `${kind.replace('_', '-')}-${number}${kind === 'quote' && order.revision > 1 ? `-${order.revision}` : ''}.pdf`;
}

/** Papers one behind the other as a reply. */
export async function papersReply(papers: readonly Paper[]): Promise<Response> {
  const pdf = await papersPdf(papers);
  return new Response(new Uint8Array(pdf), { headers: { 'Content-Type': 'application/pdf', 'Content-Disposition': 'inline; filename="papers.pdf"' } });
}

/** The paper as a reply: shown by the browser. */
export async function paperReply(paper: Paper): Promise<Response> {
  const pdf = await paperPdf(paper.kind, paper.told);
  return new Response(new Uint8Array(pdf), {
    headers: { 'Content-Type': 'application/pdf', 'Content-Disposition': `inline; filename="${paperFileName(paper)}"` },
  });
}
