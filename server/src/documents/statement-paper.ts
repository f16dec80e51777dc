import { shortDay, type IsoDay } from '@nockwright/core/calendar';
import { amountInWords } from '@nockwright/core/money';
import type { FirmRecord } from '../firm';
import type { Task } from '../work';
import { QUIET } from './fonts';
import { drawPapers, figure, headCell, headOf, ruled, type Content, type Margin } from './paper-layout';

/** What a customer owes on a day. */
export interface ToldStatement {
  readonly firm: FirmRecord;
  readonly day: IsoDay;
  readonly currency: string;
  readonly customer: {
    readonly name: string;
    readonly number: string;
    readonly street: string;
    readonly postcode: string;
    readonly town: string;
    readonly country: string;
  };
  readonly rows: readonly {
    readonly number: string;
    readonly day: IsoDay;
    readonly dueDay: IsoDay;
    readonly total: string;
    readonly open: string;
    readonly overdue: boolean;
  }[];
  readonly ages: readonly { readonly name: string; readonly amount: string }[];
  readonly onAccount: string;
  readonly balance: string;
}

/** A statement of account as PDF: what is open, what of it is overdue, and by how long. */
export async function statementPdf(told: ToldStatement): Promise<Buffer> {
  const { firm, customer, day, currency } = told;
  const title = `Statement of account, ${shortDay(day, '')}`;
  const overdue = told.rows.some((row) => row.overdue);
  const content: Content[] = [
    ...headOf(firm, title, [
      [
        ['To', `${customer.name}\n${customer.street}\n${customer.postcode} ${customer.town}, ${customer.country}`],
        ['Customer no.', customer.number],
      ],
      [['Balance', `${amountInWords(told.balance)} ${currency}`]],
      told.ages.filter((age) => Number(age.amount) > 0).map(({ name, amount }) => [name, amountInWords(amount)] as const),
    ]),
    ruled(
      ['*', 90, 90, 80, 80],
      [
        [headCell('Paper'), headCell('Day'), headCell('Due'), headCell('Total', 'right'), headCell('Open', 'right')],
        ...told.rows.map((row) => [
          { text: row.number },
          { text: shortDay(row.day, '') },
          { text: row.overdue ? `${shortDay(row.dueDay, '')}, overdue` : shortDay(row.dueDay, '') },
          figure(amountInWords(row.total)),
          figure(amountInWords(row.open)),
        ]),
      ],
    ),
    ...(Number(told.onAccount) > 0
      ? [{ text: `${amountInWords(told.onAccount)} ${currency} of your payments is on account and went to no invoice yet.`, margin: [0, 10, 0, 0] as Margin }]
      : []),
    {
      text: overdue ? 'Please pay what is overdue, or tell us what is not right.' : 'Please tell us if something is not right.',
      color: QUIET,
      margin: [0, 10, 0, 0] as Margin,
    },
  ];
  return drawPapers(title, firm, day, [content]);
}

export const drawStatementTask: Task<ToldStatement, Uint8Array> = { name: 'drawStatement', run: statementPdf };
