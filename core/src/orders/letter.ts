import { shortDay, type IsoDay } from '../calendar';

/** What a mail with a paper about an order says. */
export interface Letter {
  readonly subject: string;
  readonly text: string;
}

export interface LetterFacts {
  readonly kind: 'acknowledgement' | 'quote' | 'pro_forma';
  /** `Q1001`, `20312`, or null for a draft. */
  readonly number: string | null;
  readonly poNumber: string;
  readonly contact: string;
  /** The sentence that is said on the phone. */
  readonly spoken: string;
  readonly validUntil: IsoDay | null;
  /** Who writes, and for which firm. */
  readonly by: string;
  readonly firm: string;
}

/** The mail a paper goes out with, in plain words, to be changed before it is sent. The days stand in it as they are said on the phone. */
export function letterFor({ kind, number, poNumber, contact, spoken, validUntil, by, firm }: LetterFacts, today: IsoDay): Letter {
  const theirs = poNumber ? `, your number ${poNumber}` : '';
  const opening = contact ? `Good day ${contact},` : 'Good day,';
  const [subject, body] = {
    acknowledgement: [`Your order ${number}${theirs}`, `thank you for your order; its acknowledgement is attached. ${spoken}`],
    quote: [
      `Quote ${number}${theirs}`,
      `the quote you asked for is attached${validUntil ? `. It is valid until ${shortDay(validUntil, today)}` : ''}. ${spoken}`,
    ],
    pro_forma: [`Pro forma${number ? ` to ${number}` : ''}${theirs}`, 'the pro forma invoice you asked for is attached.'],
  }[kind] as [string, string];
  return { subject, text: `${opening}\n\n${body.trim()}\n\nKind regards\n${by}\n${firm}` };
}
