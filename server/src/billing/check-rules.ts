import { brokenRules, type ToldInvoice } from '@nockwright/core/billing';
import { Refusal } from '../http/refusal';

/** What of the firm's own record an invoice has to say. */
const OF_FIRM: readonly string[] = ['BR-06', 'BR-09', 'BR-S-02'];

/** Refuses an invoice or a credit note that breaks a rule of electronic invoices. */
export function checkRules(told: ToldInvoice): void {
  const broken = brokenRules(told);
  if (broken.length === 0) return;
  const what = told.kind === 'invoice' ? 'invoice' : 'credit note';
  const firm = broken.some(({ rule }) => OF_FIRM.includes(rule)) ? ' A manager sets it on the page Firm.' : '';
  throw new Refusal('conflict', `This ${what} cannot be issued: ${broken.map(({ rule, message }) => `${message} (${rule})`).join('; ')}.${firm}`);
}
