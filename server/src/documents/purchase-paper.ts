import type { PurchaseView } from '@nockwright/contract/supply';
import { shortDay } from '@nockwright/core/calendar';
import { amountInWords, lineAmount, priceInWords } from '@nockwright/core/money';
import { quantityInWords } from '@nockwright/core/units';
import type { FirmRecord } from '../firm';
import { QUIET } from './fonts';
import { drawPapers, figure, headCell, headOf, ruled, totalOf, type Margin } from './paper-layout';

/** What was ordered from the supplier when the paper was made. */
export interface ToldPurchase {
  /** Who told it, as they were then. */
  readonly firm: FirmRecord;
  readonly purchase: PurchaseView;
  readonly day: string;
  readonly by: string;
}

export function purchasePaperName({ purchase }: Pick<ToldPurchase, 'purchase'>): string {
  return `Purchase order ${purchase.number}`;
}

/** A purchase order as PDF: what we order, at what cost, for which day, and where it goes. */
export async function purchasePdf(told: ToldPurchase): Promise<Buffer> {
  const { purchase, day, by, firm } = told;
  const title = purchasePaperName(told);
  const lines = purchase.lines.filter((line) => Number(line.quantity) > Number(line.closed));
  return drawPapers(title, firm, day, [
    [
      ...headOf(firm, title, [
        [['To', purchase.supplier.name], ...(purchase.supplier.email ? [['Mail', purchase.supplier.email] as const] : [])],
        [[purchase.kind === 'drop_ship' ? 'Ship to our customer' : 'Ship to', purchase.shipTo]],
        [
          ['Date', shortDay(day, '')],
          ['Ordered by', by],
        ],
      ]),
      ruled(
        [16, '*', 70, 80, 62, 62],
        [
          [headCell(''), headCell('Item'), headCell('Wanted'), headCell('Quantity', 'right'), headCell('Cost', 'right'), headCell('Amount', 'right')],
          ...lines.map((line) => [
            { text: String(line.lineNo), color: QUIET },
            {
              stack: [
                { text: line.theirCode || line.item, font: 'AtkinsonMono', bold: true },
                { text: line.description },
                { text: `our ${line.item}${line.gtin ? `, GTIN ${line.gtin}` : ''}`, color: QUIET, fontSize: 8 },
              ],
            },
            { text: shortDay(line.expectedDay, ''), fontSize: 8.5 },
            figure(quantityInWords(amountInWords(line.quantity), line.unit)),
            figure(priceInWords(line.cost!)),
            figure(amountInWords(lineAmount(line.quantity, line.cost!, purchase.currency))),
          ]),
        ],
      ),
      totalOf(purchase.value!, purchase.currency),
      { text: 'Please confirm days, quantities and costs. Put our number on every label and paper.', color: QUIET, margin: [0, 0, 0, 4] as Margin },
      ...(purchase.kind === 'drop_ship'
        ? [{ text: 'Send it without prices, and tell us the tracking number when it leaves.', margin: [0, 0, 0, 4] as Margin }]
        : []),
      ...(purchase.note ? [{ text: purchase.note, margin: [0, 6, 0, 0] as Margin }] : []),
    ],
  ]);
}
