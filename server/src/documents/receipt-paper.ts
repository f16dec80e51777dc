import pdfmake from 'pdfmake';
import type { BasketView } from '@nockwright/contract/counter';
import { shortDay, type IsoDay } from '@nockwright/core/calendar';
import { amountInWords, priceInWords } from '@nockwright/core/money';
import { quantityInWords } from '@nockwright/core/units';
import type { FirmRecord } from '../firm';
import type { Task } from '../work';
import { codeSymbol } from './bar-codes';
import { INK, QUIET } from './fonts';
import type { Content, Margin } from './paper-layout';

export interface ToldReceipt {
  readonly firm: FirmRecord;
  readonly day: IsoDay;
  readonly basket: BasketView;
}

/** 80 mm, the paper of receipt printers, in points. */
const WIDTH = 226.8;
const METHODS = { cash: 'Cash', card: 'Card', account: 'On account' } as const;

/** The receipt of a sale over the counter, on a roll of 80 mm. */
export async function receiptPdf({ firm, day, basket }: ToldReceipt): Promise<Buffer> {
  const { payment } = basket;
  const row = (left: string, right: string, bold = false) => ({
    columns: [
      { text: left, bold },
      { text: right, alignment: 'right' as const, bold, width: 'auto' },
    ],
  });
  const content: Content[] = [
    { text: firm.name, bold: true, fontSize: 12 },
    {
      text: [firm.street, `${firm.postcode} ${firm.town}`.trim(), firm.phone, firm.tax_number === '' ? '' : `VAT no. ${firm.tax_number}`]
        .filter(Boolean)
        .join('\n'),
      color: QUIET,
      fontSize: 8,
    },
    { text: `Receipt ${basket.number ?? ''}`, bold: true, margin: [0, 8, 0, 0] as Margin },
    { text: `${shortDay(day, '')}, ${basket.customer}`, margin: [0, 0, 0, 6] as Margin },
    ...basket.lines.flatMap((line) => [
      row(`${line.item} ${line.description}`, ''),
      row(
        `  ${quantityInWords(line.quantity, line.unit)} × ${priceInWords(line.price)}${line.lots.length > 0 ? `, lot ${line.lots.join(', ')}` : ''}`,
        amountInWords(line.amount),
      ),
    ]),
    { text: '', margin: [0, 4, 0, 0] as Margin },
    row('Without tax', amountInWords(basket.net)),
    ...basket.taxes.map(({ percent, tax }) => row(`${Number(percent)} % tax`, amountInWords(tax))),
    row('Total', `${amountInWords(basket.total)} ${basket.currency}`, true),
    ...(basket.invoice === null ? [] : [row('Invoice', basket.invoice)]),
    ...(payment
      ? [
          row(METHODS[payment.method], amountInWords(payment.given)),
          ...(payment.method === 'cash' ? [row('Change', amountInWords(payment.change))] : []),
          ...(payment.method === 'card' ? [row('Terminal', payment.reference)] : []),
        ]
      : []),
    ...(basket.number ? [{ svg: codeSymbol(basket.number), width: 120, margin: [0, 10, 0, 0] as Margin }] : []),
  ];
  return pdfmake
    .createPdf({
      pageSize: { width: WIDTH, height: 'auto' },
      pageMargins: [10, 10, 10, 14],
      info: { title: `Receipt ${basket.number ?? ''}`, author: firm.name },
      defaultStyle: { font: 'Atkinson', fontSize: 9, color: INK, lineHeight: 1.15 },
      content: content as Content,
    })
    .getBuffer();
}

export const drawReceiptTask: Task<ToldReceipt, Uint8Array> = { name: 'drawReceipt', run: receiptPdf };
