import pdfmake from 'pdfmake';
import type { ContentTable, TableCell } from 'pdfmake/interfaces';
import type { FirmRecord } from '../firm';
import { INK, PETROL, QUIET } from './fonts';

export type Facts = readonly (readonly [label: string, value: string])[];
export type Content = Parameters<typeof pdfmake.createPdf>[0]['content'];
export type Margin = [number, number, number, number];

const WIDTH = 499;

/** Papers one behind the other, each on a page of its own: title, then what is drawn of each. */
export async function drawPapers(title: string, firm: FirmRecord, day: string, papers: readonly Content[][]): Promise<Buffer> {
  return pdfmake
    .createPdf({
      pageSize: 'A4',
      pageMargins: [48, 48, 48, 56],
      info: { title, author: firm.name, creationDate: new Date(`${day}T00:00:00Z`) },
      defaultStyle: { font: 'Atkinson', fontSize: 9.5, color: INK, lineHeight: 1.15 },
      content: papers.map((stack, at) => ({ stack, ...(at > 0 ? { pageBreak: 'before' as const } : {}) })) as Content,
      footer: (page: number, pageCount: number) => ({
        text: [papers.length === 1 ? title : firm.name, ...(firm.footer ? [firm.footer] : []), `page ${page} of ${pageCount}`].join(', '),
        alignment: 'center' as const,
        color: QUIET,
        fontSize: 8,
        margin: [0, 16, 0, 0] as Margin,
      }),
    })
    .getBuffer();
}

/** The head of a paper: who it is from, the mark, what it is, and its facts in columns. */
export function headOf(firm: FirmRecord, title: string, columns: readonly Facts[]): Content[] {
  return [
    {
      columns: [
        { text: firm.name, bold: true, fontSize: 12 },
        { text: detailsOf(firm).join('\n'), alignment: 'right', color: QUIET, fontSize: 8 },
      ],
    },
    { canvas: [{ type: 'polyline', lineColor: PETROL, lineWidth: 1.2, points: notch(WIDTH) }], margin: [0, 10, 0, 18] },
    { text: title, fontSize: 18, bold: true, margin: [0, 0, 0, 12] },
    { columns: columns.map(facts), columnGap: 16, margin: [0, 0, 0, 18] },
  ];
}

/** Where the firm is and how it is reached; what it has not said is left out. */
function detailsOf({ street, postcode, town, phone, email, tax_number }: FirmRecord): string[] {
  const said = (parts: readonly string[], between: string) => parts.filter((part) => part !== '').join(between);
  return [said([street, said([town, postcode], ' ')], ', '), said([phone, email], ', '), tax_number === '' ? '' : `VAT no. ${tax_number}`].filter(
    (row) => row !== '',
  );
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
