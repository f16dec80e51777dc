import type { OrderId } from '@nockwright/core/ids';
import { sql } from 'kysely';
import { anyOf, type Db } from '../database';
import { notFound } from '../http/refusal';
import { paperName, paperPdf, papersPdf, type PaperKind, type ToldOrder } from './order-paper';
import type { Task, Work } from '../work';
import { invoiceName, invoicePdf, type ToldInvoicePaper } from './invoice-paper';
import { packingListName, packingListPdf, type ToldPackingList } from './packing-paper';
import { purchasePaperName, purchasePdf, type ToldPurchase } from './purchase-paper';

/** What was told. A paper of before the firm was kept with it says the firm as it is now. */
const TOLD = sql<object>`jsonb_build_object('firm', (select to_jsonb(firm) from firm)) || content`.as('content');

/** A paper about an order as it was told. */
interface OrderPaper {
  readonly kind: PaperKind;
  readonly name: string;
  readonly told: ToldOrder;
}

interface InvoicePaper {
  readonly kind: 'invoice';
  readonly name: string;
  readonly told: ToldInvoicePaper;
}

/** A paper as it was told. */
export type Paper =
  | OrderPaper
  | { readonly kind: 'purchase'; readonly name: string; readonly told: ToldPurchase }
  | { readonly kind: 'packing_list'; readonly name: string; readonly told: ToldPackingList }
  | InvoicePaper;

/** A paper by its id. */
export async function loadPaper(db: Db, id: number): Promise<Paper> {
  const row = await db.selectFrom('document').select(['kind', TOLD]).where('id', '=', id).executeTakeFirst();
  if (!row) throw notFound(`paper ${id}`);
  if (row.kind === 'packing_list') {
    const told = row.content as ToldPackingList;
    return { kind: 'packing_list', told, name: packingListName(told) };
  }
  if (row.kind === 'invoice') return asInvoice(row.content);
  if (row.kind !== 'purchase') return asPaper(row);
  const told = row.content as ToldPurchase;
  return { kind: 'purchase', told, name: purchasePaperName(told) };
}

function asInvoice(content: object): InvoicePaper {
  const told = content as ToldInvoicePaper;
  return { kind: 'invoice', told, name: invoiceName(told) };
}

/** An invoice or a credit note as it was issued. */
export async function loadInvoicePaper(db: Db, invoice: number): Promise<InvoicePaper> {
  const row = await db.selectFrom('document').select(TOLD).where('invoice_id', '=', invoice).executeTakeFirst();
  if (!row) throw notFound(`paper of invoice ${invoice}: it is of before invoices were drawn here`);
  return asInvoice(row.content);
}

/** The newest paper of a kind about an order. */
export async function loadLastPaper(db: Db, kind: PaperKind, orderId: OrderId): Promise<OrderPaper> {
  const row = await db
    .selectFrom('document')
    .select(['kind', TOLD])
    .where('order_id', '=', orderId)
    .where('kind', '=', kind)
    .orderBy('id', 'desc')
    .limit(1)
    .executeTakeFirst();
  if (!row) throw notFound(`${kind.replace('_', ' ')} of this order yet`);
  return asPaper(row);
}

/** The newest paper of each of these orders that has one, in their sequence. */
export async function loadLastPapers(db: Db, orderIds: readonly number[]): Promise<OrderPaper[]> {
  const rows = await db
    .selectFrom('document')
    .select(['order_id', 'kind', TOLD])
    .distinctOn('order_id')
    .where(anyOf('order_id', orderIds))
    .orderBy('order_id')
    .orderBy('id', 'desc')
    .execute();
  if (rows.length === 0) throw notFound('paper of these orders yet');
  const byOrder = new Map(rows.map((row) => [row.order_id, row]));
  return orderIds.flatMap((id) => (byOrder.has(id) ? [asPaper(byOrder.get(id)!)] : []));
}

function asPaper({ kind, content }: { kind: string; content: object }): OrderPaper {
  const told = content as ToldOrder;
  return { kind: kind as PaperKind, told, name: paperName(kind as PaperKind, told) };
}

/** The file a paper is saved or mailed as: `quote-Q1001-2.pdf`. */
export function paperFileName(paper: Paper): string {
  if (paper.kind === 'packing_list') return `packing-list-${paper.told.shipments.map((row) => row.number).join('-')}.pdf`;
  if (paper.kind === 'invoice') return `${invoiceName(paper.told).toLowerCase().replaceAll(' ', '-')}.pdf`;
  if (paper.kind === 'purchase') return `purchase-${paper.told.purchase.number}.pdf`;
  const {
    kind,
    told: { order, revision = 1 },
  } = paper;
  const number = order.number ?? `draft-${order.id}`;
  const numbered = kind === 'quote' ? order.revision : revision;
  return `${kind.replace('_', '-')}-${number}${numbered > 1 ? `-${numbered}` : ''}.pdf`;
}

/** Papers one behind the other as a reply. */
export async function papersReply(work: Work, user: number, papers: readonly OrderPaper[]): Promise<Response> {
  const pdf = await work.run(drawPapersTask, papers, user);
  return new Response(new Uint8Array(pdf), { headers: { 'Content-Type': 'application/pdf', 'Content-Disposition': 'inline; filename="papers.pdf"' } });
}

/** The paper as a reply: shown by the browser. */
export async function paperReply(work: Work, user: number, paper: Paper): Promise<Response> {
  const pdf = await work.run(drawPaperTask, paper, user);
  return new Response(new Uint8Array(pdf), {
    headers: { 'Content-Type': 'application/pdf', 'Content-Disposition': `inline; filename="${paperFileName(paper)}"` },
  });
}

/** A paper as PDF. */
export const drawPaperTask: Task<Paper, Uint8Array> = {
  name: 'drawPaper',
  run: (paper) => {
    if (paper.kind === 'packing_list') return packingListPdf(paper.told);
    if (paper.kind === 'invoice') return invoicePdf(paper.told);
    return paper.kind === 'purchase' ? purchasePdf(paper.told) : paperPdf(paper.kind, paper.told);
  },
};

/** Papers one behind the other as PDF. */
export const drawPapersTask: Task<readonly OrderPaper[], Uint8Array> = { name: 'drawPapers', run: (papers) => papersPdf(papers) };
