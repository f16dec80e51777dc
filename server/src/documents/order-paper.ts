import type { OrderView, PaperView } from '@nockwright/contract/orders';
import { daysInWords } from '@nockwright/core/billing';
import { shortDay } from '@nockwright/core/calendar';
import { amountInWords, compareDecimal, priceInWords } from '@nockwright/core/money';
import { quantityInWords } from '@nockwright/core/units';
import type { FirmRecord } from '../firm';
import { QUIET } from './fonts';
import { drawPapers, figure, headCell, headOf, ruled, totalOf, type Content, type Facts, type Margin } from './paper-layout';

export type PaperKind = PaperView['kind'];

/** What was told to the customer when the paper was made. */
export interface ToldOrder {
  /** Who told it, as they were then. */
  readonly firm: FirmRecord;
  readonly order: OrderView;
  /** Of papers that were made before the order had terms of its own. */
  readonly termsDays?: number;
  readonly day: string;
  /** Of an acknowledgement: how many were made with it. Those of before this was counted are the first. */
  readonly revision?: number;
}

type Line = OrderView['lines'][number];
/** What a paper is called, with the number of what it is about. */
export function paperName(kind: PaperKind, { order, revision = 1 }: Pick<ToldOrder, 'order' | 'revision'>): string {
  if (kind === 'acknowledgement') return `Order acknowledgement ${order.number}${revision > 1 ? `, revision ${revision}` : ''}`;
  if (kind === 'quote') return `Quote ${order.number}${order.revision > 1 ? `, revision ${order.revision}` : ''}`;
  return `Pro forma invoice ${order.number ?? `to draft ${order.id}`}`;
}

/** A paper about an order or a quote as PDF: what is ordered or offered, at what price, and when each part leaves, as it was told. */
export async function paperPdf(kind: PaperKind, told: ToldOrder): Promise<Buffer> {
  return papersPdf([{ kind, told }]);
}

/** Papers one behind the other, each on a page of its own. */
export async function papersPdf(papers: readonly { readonly kind: PaperKind; readonly told: ToldOrder }[]): Promise<Buffer> {
  const [first] = papers;
  const title = papers.length === 1 ? paperName(first!.kind, first!.told) : `${papers.length} papers`;
  return drawPapers(
    title,
    first!.told.firm,
    first!.told.day,
    papers.map(({ kind, told }) => pages(kind, told)),
  );
}

function pages(kind: PaperKind, told: ToldOrder): Content[] {
  const { order } = told;
  const alternatives = order.lines.filter((line) => line.alternative);
  return [
    ...headOf(told.firm, paperName(kind, told), head(kind, told)),
    table(order.lines.filter((line) => !line.alternative)),
    totalOf(order.amount, order.currency),
    ...(alternatives.length > 0
      ? [
          { text: 'Offered beside these, and not in the total', bold: true, margin: [0, 0, 0, 6] as Margin },
          { ...table(alternatives, order.lines), margin: [0, 0, 0, 18] as Margin },
        ]
      : []),
    ...closing(kind, told).map((text) => ({ text, color: QUIET, margin: [0, 0, 0, 4] as Margin })),
    ...(order.note ? [{ text: order.note, margin: [0, 6, 0, 0] as Margin }] : []),
  ];
}

/** Who it is for, where it goes, and on what terms: a column each. */
function head(kind: PaperKind, { order, day, termsDays = order.termsDays }: ToldOrder): readonly Facts[] {
  const { shipTo, customer } = order;
  const asked = [order.requestKind === 'deliver_by' ? 'Deliver by' : 'Ship by', shortDay(order.requestedDay, '')] as const;
  return [
    [
      ['For', customer.name],
      ['Customer no.', customer.number],
      ...(order.poNumber || kind !== 'quote' ? [['Your order no.', order.poNumber || '–'] as const] : []),
      ...(order.description ? [['About', order.description] as const] : []),
    ],
    [
      ['Ship to', `${shipTo.name}\n${shipTo.street}\n${shipTo.postcode} ${shipTo.town}`],
      ['Carrier', order.carrier.name],
      ...(order.contract ? [['Contract', `${order.contract.number}, ${order.contract.name}`] as const] : []),
    ],
    [
      ['Date', shortDay(day, '')],
      ...(kind === 'quote' && order.validUntil ? [['Valid until', shortDay(order.validUntil, '')] as const] : []),
      asked,
      ['Terms', daysInWords(order.termsKind ?? 'net', termsDays)],
    ],
  ];
}

/** What holds for the paper as a whole. */
function closing(kind: PaperKind, { order, revision = 1 }: ToldOrder): readonly string[] {
  const delivery = order.shipComplete
    ? 'The order leaves complete, on one day.'
    : typeof order.mostShipments === 'number'
      ? `It comes in at most ${order.mostShipments} ${order.mostShipments === 1 ? 'shipment' : 'shipments'}.`
      : 'Parts leave as they are ready; what is still open stays promised to you.';
  if (kind === 'acknowledgement') return [...(revision > 1 ? ['It takes the place of what we acknowledged before.'] : []), delivery];
  if (kind === 'quote')
    return [
      `Prices hold until ${shortDay(order.validUntil!, '')}. The days are those possible today; no goods are committed before you order.`,
      'Order from it whole or in part, with or without what is offered beside.',
    ];
  return ['For prepayment or customs; it asks for no payment and is no invoice. Tax is added on the invoice where it is due.', delivery];
}

/** `all`: where lines are alternatives, those they stand beside. */
function table(lines: readonly Line[], all: readonly Line[] = []) {
  return ruled([16, '*', 70, 62, 62, 108], [header(), ...lines.map((line) => row(line, all))]);
}

function header() {
  return [headCell(''), headCell('Item'), headCell('Quantity', 'right'), headCell('Price', 'right'), headCell('Amount', 'right'), headCell('Leaves')];
}

function row(line: Line, all: readonly Line[]) {
  const leaves = line.schedule.map((entry) => `${quantityInWords(amountInWords(entry.quantity), line.stockUnit)}, ${shortDay(entry.day, '')}`);
  if (compareDecimal(line.uncovered, '0') > 0) leaves.push(`${quantityInWords(amountInWords(line.uncovered), line.stockUnit)}: day to follow`);
  return [
    { text: String(line.lineNo), color: QUIET },
    {
      stack: [
        { text: line.item, font: 'AtkinsonMono', bold: true },
        { text: line.description },
        ...remarksOf(line, all).map((text) => ({ text, color: QUIET })),
      ],
    },
    figure(quantityInWords(amountInWords(line.quantity), line.unit)),
    figure(priceInWords(line.price)),
    figure(amountInWords(line.amount)),
    { text: leaves.join('\n'), fontSize: 8.5 },
  ];
}

/** What stands below an item on a paper. `all`: where lines are alternatives, those they stand beside. */
export function remarksOf(line: Line, all: readonly Line[]): string[] {
  const instead = all.find((other) => other.id === line.alternativeTo);
  return [
    ...(line.theirCode ? [`your number ${line.theirCode}`] : []),
    ...(line.alternative ? [instead ? `instead of line ${instead.lineNo}, ${instead.item}` : 'as an extra'] : []),
    ...(line.cancelled === '0' ? [] : [`${quantityInWords(amountInWords(line.cancelled), line.stockUnit)} of it cancelled`]),
    ...(line.contractLine === null ? [] : [`by ${line.priceSource}`]),
    ...(line.shipTo ? [`to ${line.shipTo.street}, ${line.shipTo.postcode} ${line.shipTo.town}`] : []),
    ...(line.note ? [line.note] : []),
  ];
}
