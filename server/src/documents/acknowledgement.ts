import { createRequire } from 'node:module';
import type { OrderView } from '@nockwright/contract/orders';
import { shortDay } from '@nockwright/core/calendar';
import { compareDecimal } from '@nockwright/core/money';
import { quantityInWords } from '@nockwright/core/units';
import pdfmake from 'pdfmake';

/** What was told to the customer when the order was released. */
export interface ToldOrder {
  readonly order: OrderView;
  readonly termsDays: number;
  readonly day: string;
}

const require = createRequire(import.meta.url);
const font = (family: 'next' | 'mono', weight: number) =>
  require.resolve(`@fontsource/atkinson-hyperlegible-${family}/files/atkinson-hyperlegible-${family}-latin-${weight}-normal.woff`);
const [text, textBold, mono, monoBold] = [font('next', 400), font('next', 700), font('mono', 400), font('mono', 700)];

pdfmake.addFonts({
  Atkinson: { normal: text, bold: textBold, italics: text, bolditalics: textBold },
  AtkinsonMono: { normal: mono, bold: monoBold, italics: mono, bolditalics: monoBold },
});
// A document takes nothing from the network, and of this machine only its fonts: texts of an order cannot make it read more.
pdfmake.setUrlAccessPolicy(() => false);
pdfmake.setLocalAccessPolicy((path: string) => [text, textBold, mono, monoBold].includes(path));

const INK = '#1F2A2E';
const PETROL = '#12525E';
const QUIET = '#5B6669';

/** The order acknowledgement as PDF: what was ordered, at what price, and when each part leaves, as it was told. */
export async function acknowledgementPdf({ order, termsDays, day }: ToldOrder): Promise<Buffer> {
  const { shipTo } = order;
  return pdfmake
    .createPdf({
      pageSize: 'A4',
      pageMargins: [48, 48, 48, 56],
      info: { title: `Order acknowledgement ${order.number}`, author: 'Marrowby Apiary Supply' },
      defaultStyle: { font: 'Atkinson', fontSize: 9.5, color: INK, lineHeight: 1.15 },
      content: [
        {
          columns: [
            { text: 'Marrowby Apiary Supply', bold: true, fontSize: 12 },
            { text: '14 Combe Lane, Marrowby', alignment: 'right', color: QUIET },
          ],
        },
        { canvas: [{ type: 'polyline', lineColor: PETROL, lineWidth: 1.2, points: notch(499) }], margin: [0, 10, 0, 18] },
        { text: `Order acknowledgement ${order.number}`, fontSize: 18, bold: true, margin: [0, 0, 0, 12] },
        {
          columns: [
            facts([
              ['For', order.customer.name],
              ['Customer no.', order.customer.number],
              ['Your order no.', order.poNumber || '–'],
            ]),
            facts([
              ['Ship to', `${shipTo.name}\n${shipTo.street}\n${shipTo.postcode} ${shipTo.town}`],
              ['Carrier', order.carrier.name],
            ]),
            facts([
              ['Date', shortDay(day, '')],
              [order.requestKind === 'deliver_by' ? 'Deliver by' : 'Ship by', shortDay(order.requestedDay, '')],
              ['Terms', `${termsDays} days net`],
            ]),
          ],
          columnGap: 16,
          margin: [0, 0, 0, 18],
        },
        {
          table: { headerRows: 1, widths: [16, '*', 70, 62, 62, 108], body: [header(), ...order.lines.map((line) => row(line))] },
          layout: { hLineWidth: (at: number) => (at < 2 ? 0.9 : 0.4), vLineWidth: () => 0, hLineColor: () => INK, paddingTop: () => 5, paddingBottom: () => 5 },
        },
        {
          columns: [
            { text: '' },
            {
              width: 220,
              columns: [
                { text: 'Net total', color: QUIET },
                { text: `${order.amount} ${order.currency}`, alignment: 'right', bold: true, font: 'AtkinsonMono' },
              ],
            },
          ],
          margin: [0, 12, 0, 18],
        },
        {
          text: order.shipComplete ? 'The order leaves complete, on one day.' : 'Parts leave as they are ready; what is owed stays promised to you.',
          color: QUIET,
        },
        ...(order.note ? [{ text: order.note, margin: [0, 8, 0, 0] as [number, number, number, number] }] : []),
      ],
      footer: (page: number, pages: number) => ({
        text: `Order ${order.number}, page ${page} of ${pages}`,
        alignment: 'center' as const,
        color: QUIET,
        fontSize: 8,
        margin: [0, 16, 0, 0] as [number, number, number, number],
      }),
    })
    .getBuffer();
}

/** The mark: a line with a notch cut in it. */
function notch(width: number) {
  const at = width * 0.12;
  return [
    { x: 0, y: 0 },
    { x: at - 6, y: 0 },
    { x: at, y: 9 },
    { x: at + 6, y: 0 },
    { x: width, y: 0 },
  ];
}

function facts(rows: readonly (readonly [string, string])[]) {
  return {
    stack: rows.flatMap(([label, value]) => [
      { text: label, color: QUIET, fontSize: 8 },
      { text: value, margin: [0, 0, 0, 5] as [number, number, number, number] },
    ]),
  };
}

function header() {
  const cell = (text: string, alignment: 'left' | 'right' = 'left') => ({ text, alignment, color: QUIET, fontSize: 8 });
  return [cell(''), cell('Item'), cell('Quantity', 'right'), cell('Price', 'right'), cell('Amount', 'right'), cell('Leaves')];
}

function row(line: OrderView['lines'][number]) {
  const figure = (text: string) => ({ text, alignment: 'right' as const, font: 'AtkinsonMono', fontSize: 8.5 });
  const leaves = line.schedule.map((entry) => `${quantityInWords(entry.quantity, line.stockUnit)}, ${shortDay(entry.day, '')}`);
  if (compareDecimal(line.uncovered, '0') > 0) leaves.push(`${quantityInWords(line.uncovered, line.stockUnit)}: day to follow`);
  return [
    { text: String(line.lineNo), color: QUIET },
    { stack: [{ text: line.item, font: 'AtkinsonMono', bold: true }, { text: line.description }, ...(line.note ? [{ text: line.note, color: QUIET }] : [])] },
    figure(quantityInWords(line.quantity, line.unit)),
    figure(line.price),
    figure(line.amount),
    { text: leaves.join('\n'), fontSize: 8.5 },
  ];
}
