import pdfmake from 'pdfmake';
import type { ContentTable, TableCell } from 'pdfmake/interfaces';
import { INK, PETROL, QUIET } from './fonts';

export type Facts = readonly (readonly [label: string, value: string])[];
export type Content = Parameters<typeof pdfmake.createPdf>[0]['content'];
export type Margin = [number, number, number, number];

export const FIRM = 'Marrowby Apiary Supply';
/** Where it is and how it is reached. Made up, as all of the demo. */
const FIRM_DETAILS = ['14 Combe Lane, Marrowby MB4 2QX', '01632 960100, orders@marrowby.example', 'VAT no. GB 999 9999 73'];
const WIDTH = 499;

/** Papers one behind the other, each on a page of its own: title, then what is drawn of each. */
export async function drawPapers(title: string, footer: string, day: string, papers: readonly Content[][]): Promise<Buffer> {
  return pdfmake
    .createPdf({
      pageSize: 'A4',
      pageMargins: [48, 48, 48, 56],
      info: { title, author: FIRM, creationDate: new Date(`${day}T00:00:00Z`) },
      defaultStyle: { font: 'Atkinson', fontSize: 9.5, color: INK, lineHeight: 1.15 },
      content: papers.map((stack, at) => ({ stack, ...(at > 0 ? { pageBreak: 'before' as const } : {}) })) as Content,
      footer: (page: number, pageCount: number) => ({
        text: `${footer}, page ${page} of ${pageCount}`,
        alignment: 'center' as const,
        color: QUIET,
        fontSize: 8,
        margin: [0, 16, 0, 0] as Margin,
      }),
    })
    .getBuffer();
}

/** The head of a paper: who it is from, the mark, what it is, and its facts in columns. */
export function headOf(title: string, columns: readonly Facts[]): Content[] {
  return [
    {
      columns: [
        { text: FIRM, bold: true, fontSize: 12 },
        { text: FIRM_DETAILS.join('\n'), alignment: 'right', color: QUIET, fontSize: 8 },
      ],
    },
    { canvas: [{ type: 'polyline', lineColor: PETROL, lineWidth: 1.2, points: notch(WIDTH) }], margin: [0, 10, 0, 18] },
    { text: title, fontSize: 18, bold: true, margin: [0, 0, 0, 12] },
    { columns: columns.map(facts), columnGap: 16, margin: [0, 0, 0, 18] },
  ];
}

export function facts(rows: Facts) {
  return {
    stack: rows.flatMap(([label, value]) => [
      { text: label, color: QUIET, fontSize: 8 },
      { text: value, margin: [0, 0, 0, 5] as Margin },
    ]),
  };
}

/** Rows between hairlines; the first is the head. */
export function ruled(widths: (number | string)[], body: object[][]): ContentTable {
  return {
    table: { headerRows: 1, widths, body: body as TableCell[][] },
    layout: {
      hLineWidth: (at: number) => (at < 2 ? 0.9 : 0.4),
      vLineWidth: () => 0,
      hLineColor: () => INK,
      paddingTop: () => 5,
      paddingBottom: () => 5,
    },
  };
}

export function figure(text: string) {
  return { text, alignment: 'right' as const, font: 'AtkinsonMono', fontSize: 8.5 };
}

export function headCell(text: string, alignment: 'left' | 'right' = 'left') {
  return { text, alignment, color: QUIET, fontSize: 8 };
}

export function totalOf(amount: string, currency: string) {
  return {
    columns: [
      { text: '' },
      {
        width: 220,
        columns: [
          { text: 'Net total', color: QUIET },
          { text: `${amount} ${currency}`, alignment: 'right' as const, bold: true, font: 'AtkinsonMono' },
        ],
      },
    ],
    margin: [0, 12, 0, 18] as Margin,
  };
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
