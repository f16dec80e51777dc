import type { ItemCode } from '@nockwright/core/ids';
import type { PurchaseView } from '@nockwright/contract/supply';
import { writeCancellation, writeOrder } from '@nockwright/core/exchange';
import { lineAmount } from '@nockwright/core/money';
import { storePurchasePaper } from '../../documents';
import { loadFirm, type FirmRecord } from '../../firm';
import type { CommandContext } from '../../http/context';

/** How a supplier was told; in neither way where they have no address and take no files. */
export interface Told {
  readonly mailed: boolean;
  readonly filed: boolean;
}

/**
 * Tells the supplier what is ordered: by mail with the paper where they have an address, as a UBL file where they take
 * files. Both go out when the transaction commits. Gives how they were told, in words; empty where nothing reaches them.
 */
export async function tellOrdered(context: CommandContext, purchase: PurchaseView): Promise<Told> {
  const firm = await loadFirm(context.trx);
  const paper = await storePurchasePaper(context, purchase);
  const text = [
    `Please send us what the attached purchase order ${purchase.number} lists, and confirm days, quantities and costs.`,
    ...(purchase.kind === 'drop_ship' ? [`It goes straight to our customer: ${purchase.shipTo}. Please tell us the tracking number when it leaves.`] : []),
    ...(purchase.note ? [purchase.note] : []),
  ];
  const lines = purchase.lines.filter((line) => line.open !== '0');
  const mailed = await mail(context, firm, purchase, paper, `Purchase order ${purchase.number}`, text);
  const filed = await putOut(context, purchase, 'order', purchase.number, () =>
    writeOrder({
      number: purchase.number,
      issueDay: context.now.today,
      note: purchase.note,
      currency: purchase.currency,
      buyer: { name: firm.name, code: firm.code },
      seller: { name: purchase.supplier.name, code: purchase.supplier.code },
      shipTo: purchase.shipTo,
      lines: lines.map((line) => ({
        id: String(line.lineNo),
        quantity: line.open,
        unit: line.unit,
        amount: lineAmount(line.open, line.cost!, purchase.currency),
        price: line.cost!,
        day: line.expectedDay,
        item: { description: line.description, buyersCode: line.item, sellersCode: line.theirCode, ...(line.gtin ? { gtin: line.gtin } : {}) },
      })),
    }),
  );
  return { mailed, filed };
}

/** What is not to come any more, line by line. */
export interface TakenBack {
  readonly lineNo: number;
  readonly item: ItemCode;
  readonly quantity: string;
}

/** Tells the supplier that we want nothing more of an order, or less: `all` says that nothing of it is left to come. */
export async function tellTakenBack(context: CommandContext, purchase: PurchaseView, lines: readonly TakenBack[], all: boolean, why: string): Promise<Told> {
  const firm = await loadFirm(context.trx);
  const what = lines.map(({ lineNo, item, quantity }) => `${quantity} ${theirName(purchase, lineNo, item)} (line ${lineNo})`).join(', ');
  const subject = all ? `Purchase order ${purchase.number} is cancelled` : `Less of purchase order ${purchase.number}`;
  const text = [
    all
      ? `Please send nothing more of our purchase order ${purchase.number}. Still expected were: ${what}.`
      : `Please do not send ${what} of our purchase order ${purchase.number}. All else of it stands.`,
    `The reason: ${why}.`,
    'Tell us at once if it has left already.',
  ];
  const mailed = await mail(context, firm, purchase, null, subject, text);
  const filed = all && (await putOut(context, purchase, 'cancellation', `${purchase.number}-X`, () => cancellation(context, firm, purchase, why)));
  return { mailed, filed };
}

function cancellation(context: CommandContext, firm: FirmRecord, purchase: PurchaseView, why: string): string {
  return writeCancellation({
    number: `${purchase.number}-X`,
    issueDay: context.now.today,
    order: purchase.number,
    note: why,
    buyer: { name: firm.name, code: firm.code },
    seller: { name: purchase.supplier.name, code: purchase.supplier.code },
  });
}

function theirName(purchase: PurchaseView, lineNo: number, item: ItemCode): string {
  return purchase.lines.find((line) => line.lineNo === lineNo)?.theirCode || item;
}

async function mail(
  context: CommandContext,
  firm: FirmRecord,
  purchase: PurchaseView,
  paper: number | null,
  subject: string,
  text: readonly string[],
): Promise<boolean> {
  const { trx, now, user, jobs } = context;
  if (purchase.supplier.email === '') return false;
  const { id } = await trx
    .insertInto('mail')
    .values({
      purchase_id: purchase.id,
      document_id: paper,
      recipients: [purchase.supplier.email],
      subject: `${subject}, ${firm.name}`,
      body: [...text, `${user.name}\n${firm.name}`].join('\n\n'),
      made_at: now.instant,
      made_by: user.id,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await jobs.send(trx, 'mail', { mail: id });
  return true;
}

/** Has a file written into the supplier's folder; the text is kept as it goes. */
async function putOut(context: CommandContext, purchase: PurchaseView, kind: 'order' | 'cancellation', number: string, write: () => string): Promise<boolean> {
  const { trx, now } = context;
  const { exchanges } = await trx.selectFrom('supplier').select('exchanges').where('code', '=', purchase.supplier.code).executeTakeFirstOrThrow();
  if (!exchanges) return false;
  await trx
    .insertInto('exchange_message')
    .values({
      supplier: purchase.supplier.code,
      direction: 'out',
      kind,
      purchase_id: purchase.id,
      number,
      file: `${kind}-${number}.xml`,
      content: write(),
      at: now.instant,
      state: 'waiting',
    })
    .execute();
  return true;
}
