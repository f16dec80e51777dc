import pdfmake from 'pdfmake';
import type { FirmRecord } from '../firm';
import { gs1Symbol } from './bar-codes';
import { INK, QUIET } from './fonts';
import type { Content, Margin } from './paper-layout';

/** Millimetres in points. */
const MM = 72 / 25.4;
/** 4 by 6 inches: the size of label that carriers and label printers use. Common practice, no source. */
const PAGE = { width: 4 * 72, height: 6 * 72 };

/** What stands on the label of a carton. */
export interface ToldCarton {
  readonly number: number;
  readonly of: number;
  readonly sscc: string;
  readonly weight: string;
  readonly customer: string;
  readonly address: string;
  readonly service: string;
  readonly shipments: readonly string[];
  readonly poNumbers: readonly string[];
}

/** Labels of cartons as PDF, a page each: who from, who to, which order, and the SSCC as GS1-128 with the identifier (00). */
export async function cartonLabelsPdf({ firm, cartons }: { readonly firm: FirmRecord; readonly cartons: readonly ToldCarton[] }): Promise<Buffer> {
  return pdfmake
    .createPdf({
      pageSize: PAGE,
      pageMargins: [14, 14, 14, 14],
      info: { title: 'Carton labels', author: firm.name },
      defaultStyle: { font: 'Atkinson', fontSize: 9, color: INK },
      content: cartons.map((carton, at) => ({ stack: labelOf(firm, carton), ...(at > 0 ? { pageBreak: 'before' as const } : {}) })) as Content,
    })
    .getBuffer();
}

function labelOf(firm: FirmRecord, carton: ToldCarton): Content[] {
  const [name, ...address] = carton.address.split(', ');
  return [
    { text: `From ${firm.name}`, color: QUIET, fontSize: 8 },
    { text: [firm.street, `${firm.postcode} ${firm.town}`.trim()].filter(Boolean).join(', '), color: QUIET, fontSize: 8 },
    rule(),
    { text: 'To', color: QUIET, fontSize: 8 },
    { text: carton.customer, bold: true, fontSize: 14 },
    { text: [name === carton.customer ? '' : name, ...address].filter(Boolean).join('\n'), fontSize: 12, margin: [0, 2, 0, 0] as Margin },
    rule(),
    {
      columns: [
        {
          stack: [
            { text: 'Shipment', color: QUIET, fontSize: 8 },
            { text: carton.shipments.join(', '), bold: true, fontSize: 12 },
          ],
        },
        {
          stack: [
            { text: 'Carton', color: QUIET, fontSize: 8 },
            { text: `${carton.number} of ${carton.of}`, bold: true, fontSize: 12 },
          ],
        },
        {
          stack: [
            { text: 'Weight', color: QUIET, fontSize: 8 },
            { text: `${carton.weight} kg`, bold: true, fontSize: 12 },
          ],
        },
      ],
    },
    ...(carton.poNumbers.length > 0
      ? [
          {
            stack: [
              { text: 'Your order no.', color: QUIET, fontSize: 8 },
              { text: carton.poNumbers.join(', '), fontSize: 10 },
            ],
            margin: [0, 6, 0, 0] as Margin,
          },
        ]
      : []),
    { text: carton.service, fontSize: 9, margin: [0, 6, 0, 0] as Margin },
    rule(),
    { svg: gs1Symbol([['00', carton.sscc]], 28), width: 92 * MM, alignment: 'center' as const, absolutePosition: { x: 14, y: 286 } },
    { text: `(00) ${carton.sscc}`, font: 'AtkinsonMono', fontSize: 11, alignment: 'center' as const, absolutePosition: { x: 0, y: 396 } },
  ] as Content[];
}

function rule() {
  return { canvas: [{ type: 'line' as const, x1: 0, y1: 0, x2: PAGE.width - 28, y2: 0, lineWidth: 0.9, lineColor: INK }], margin: [0, 8, 0, 8] as Margin };
}
