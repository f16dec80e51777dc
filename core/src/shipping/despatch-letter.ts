import { dayByName, type IsoDay } from '../calendar';
import type { Quantity } from '../money';
import { quantityInWords } from '../units';

export interface DespatchFacts {
  readonly firm: string;
  readonly contact: string;
  /** `20400-1`, with the number of the order it belongs to and the customer's own; their number may be empty. */
  readonly shipments: readonly { readonly number: string; readonly order: string; readonly poNumber: string }[];
  readonly warehouse: string;
  readonly service: string;
  readonly tracking: string;
  /** Where the parcel is followed; empty: nowhere. */
  readonly link: string;
  /** The day it should arrive; null: nobody knows. */
  readonly arrives: IsoDay | null;
  readonly goods: readonly Goods[];
  /** What of the same orders still follows; without a day where none is promised. */
  readonly follows: readonly (Goods & { readonly order: string; readonly day: IsoDay | null })[];
  readonly by: string;
}

interface Goods {
  readonly quantity: Quantity;
  readonly unit: string;
  /** As the customer calls it, where they do. */
  readonly item: string;
  readonly description: string;
}

/** The mail by which a customer hears what has left, how it is followed and what is still to come, each with its day. */
export function despatchLetter(facts: DespatchFacts, today: IsoDay): { readonly subject: string; readonly text: string } {
  const { shipments, contact, tracking, link, goods, follows, firm, by } = facts;
  const theirs = [...new Set(shipments.map((row) => row.poNumber).filter(Boolean))];
  const subject = `Shipment ${shipments.map((row) => row.number).join(', ')} has left${theirs.length > 0 ? `, your order ${theirs.join(', ')}` : ''}`;
  const arrives = facts.arrives === null ? '' : ` It should reach you on ${dayByName(facts.arrives, today)}.`;
  const text = [
    contact ? `Good day ${contact},` : 'Good day,',
    `these goods have left our warehouse ${facts.warehouse} today by ${facts.service}.${arrives}`,
    goods.map(goodsLine).join('\n'),
    ...(tracking ? [`Tracking number: ${tracking}${link ? `\n${link}` : ''}`] : []),
    follows.length === 0
      ? 'This completes your order.'
      : ['Still to follow:', ...follows.map((row) => followLine(row, shipments.length > 1, today))].join('\n'),
    `Kind regards\n${by}\n${firm}`,
  ];
  return { subject, text: text.join('\n\n') };
}

function goodsLine({ quantity, unit, item, description }: Goods): string {
  return `  ${quantityInWords(quantity, unit)} ${item}, ${description}`;
}

function followLine(row: DespatchFacts['follows'][number], several: boolean, today: IsoDay): string {
  const when = row.day === null ? 'we tell you the day as soon as we know it' : `leaves on ${dayByName(row.day, today)}`;
  return `${goodsLine(row)}${several ? ` (order ${row.order})` : ''}: ${when}`;
}
