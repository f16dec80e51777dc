import { payableInWords, type BillTo, type ToldInvoice } from '@nockwright/core/billing';
import { shortDay, type IsoDay } from '@nockwright/core/calendar';
import { amountInWords, priceInWords } from '@nockwright/core/money';
import { quantityInWords } from '@nockwright/core/units';
import type { FirmRecord } from '../firm';
import { QUIET } from './fonts';
import { drawPapers, figure, headCell, headOf, ruled, type Content, type Margin } from './paper-layout';

/** What an invoice or a credit note said as it was issued. */
export interface ToldInvoicePaper {
  readonly firm: FirmRecord;
  readonly invoice: ToldInvoice;
  readonly billTo: BillTo;
  readonly discountUntil: IsoDay | null;
  readonly discountPercent: string;
  readonly reason: string;
  /** What each line came with, by its id. */
  readonly beside: readonly {
    readonly id: string;
    readonly item: string;
    readonly theirCode: string;
    readonly order: string;
    readonly poNumber: string;
    readonly shipment: string;
    readonly shippedDay: IsoDay | null;
    readonly tracking: string;
    readonly contract: string;
  }[];
}

export function invoiceName({ invoice }: Pick<ToldInvoicePaper, 'invoice'>): string {
  return `${invoice.kind === 'invoice' ? 'Invoice' : 'Credit note'} ${invoice.number}`;
}

const UNTAXED = { Z: 'Zero rate', E: 'Exempt', G: 'Export' } as const;

/** An invoice or a credit note as PDF: its lines by shipment, tax by rate, what is to be paid and by when. */
export async function invoicePdf(told: ToldInvoicePaper): Promise<Buffer> {
  return drawPapers(invoiceName(told), told.firm, told.invoice.day, [[...head(told), lines(told), totals(told), ...closing(told)]]);
}

function head(told: ToldInvoicePaper): Content[] {
  const { invoice, billTo, beside } = told;
  const theirs = [...new Set(beside.map((row) => row.poNumber).filter(Boolean))];
  return headOf(told.firm, invoiceName(told), [
    [
      ['To', `${billTo.name}\n${billTo.street}\n${billTo.postcode} ${billTo.town}, ${billTo.country}`],
      ['Customer no.', billTo.number],
      ...(billTo.taxNumber ? [['Their VAT no.', billTo.taxNumber] as const] : []),
    ],
    [
      ['Our order', [...new Set(beside.map((row) => row.order).filter(Boolean))].join(', ') || '–'],
      ...(theirs.length > 0 ? [['Your order no.', theirs.join(', ')] as const] : []),
      ...(invoice.credits ? [['Corrects invoice', `${invoice.credits.number} of ${shortDay(invoice.credits.day, '')}`] as const] : []),
    ],
    [
      ['Day', shortDay(invoice.day, '')],
      ...(invoice.kind === 'invoice' ? [['Due', shortDay(invoice.dueDay, '')] as const, ['Reference', invoice.reference] as const] : []),
    ],
  ]);
}

function lines({ invoice, beside }: ToldInvoicePaper): Content {
  const about = new Map(beside.map((row) => [row.id, row]));
  let shipment = '';
  const rows = invoice.lines.flatMap((line) => {
    const row = about.get(line.id);
    const first = row && row.shipment !== '' && row.shipment !== shipment;
    if (first) shipment = row.shipment;
    const left = first ? [row.shippedDay ? `shipped ${shortDay(row.shippedDay, '')}` : '', row.tracking].filter(Boolean).join(', ') : '';
    return [
      ...(first
        ? [[{ text: `Shipment ${row.shipment}${left ? `, ${left}` : ''}`, colSpan: 5, bold: true, margin: [0, 4, 0, 0] as Margin }, {}, {}, {}, {}]]
        : []),
      [
        { stack: [{ text: line.text }, { text: [row?.theirCode || row?.item, row?.contract].filter(Boolean).join(', '), color: QUIET, fontSize: 8 }] },
        figure(line.unit === 'C62' ? '' : quantityInWords(amountInWords(line.quantity), line.unit)),
        figure(priceInWords(line.price)),
        figure(`${Number(line.percent)} %`),
        figure(amountInWords(line.amount)),
      ],
    ];
  });
  return ruled(
    ['*', 84, 62, 40, 68],
    [[headCell('Item'), headCell('Quantity', 'right'), headCell('Price', 'right'), headCell('Tax', 'right'), headCell('Amount', 'right')], ...rows],
  );
}

function totals({ invoice }: ToldInvoicePaper): Content {
  const row = (label: string, amount: string, bold = false) => [
    { text: label, bold, alignment: 'right' as const },
    { text: amountInWords(amount), bold, alignment: 'right' as const },
  ];
  const body = [
    row('Without tax', invoice.net),
    ...invoice.taxes.map((tax) =>
      row(
        tax.category === 'S'
          ? `${Number(tax.percent)} % tax on ${amountInWords(tax.base)}`
          : `${UNTAXED[tax.category]} on ${amountInWords(tax.base)}${tax.reason ? `: ${tax.reason}` : ''}`,
        tax.tax,
      ),
    ),
    row(`Total in ${invoice.currency}`, invoice.total, true),
  ];
  return { table: { widths: ['*', 80], body }, layout: 'noBorders', margin: [0, 10, 0, 14] as Margin };
}

function closing({ invoice, discountUntil, discountPercent, reason }: ToldInvoicePaper): Content[] {
  const note = invoice.kind === 'credit_note';
  const words = note
    ? [`This credit note corrects invoice ${invoice.credits?.number ?? ''}.`, reason]
    : [
        payableInWords({ total: invoice.total, dueDay: invoice.dueDay, discountUntil, discountPercent }, invoice.currency, invoice.day),
        `Terms: ${invoice.terms}. Please name ${invoice.reference} with your payment.`,
      ];
  return words.filter(Boolean).map((text) => ({ text, color: QUIET, margin: [0, 0, 0, 4] as Margin }));
}
