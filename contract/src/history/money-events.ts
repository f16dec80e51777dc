import { amountInWords, type Amount } from '@nockwright/core/money';
import { shortDay } from '@nockwright/core/calendar';
import { day, decimal, flag, integer, list, note, object, oneOf, text } from '../shape';
import { event } from './kind';
import { count } from './parts';

const money = { amount: decimal<Amount>(), currency: text() };
const inWords = ({ amount, currency }: { readonly amount: Amount; readonly currency: string }) => `${amountInWords(amount)} ${currency}`;

/** Invoices, credit notes and payments. */
export const moneyEvents = {
  'invoice.issued': event(
    object({ ...money, number: text(), customer: text(), shipments: list(text()) }),
    ({ number, customer, shipments, ...amount }) => `issued invoice ${number} to ${customer} for ${inWords(amount)}: ${count(shipments.length, 'shipment')}`,
  ),
  'invoice.credited': event(
    object({ ...money, number: text(), invoice: text(), lines: integer() }),
    ({ number, invoice, lines, ...amount }) => `issued credit note ${number} to invoice ${invoice} for ${inWords(amount)}: ${count(lines, 'line')}`,
  ),
  'invoice.written_off': event(object({ ...money, number: text() }), ({ number, ...amount }) => `wrote off ${inWords(amount)} of invoice ${number}`),
  'payment.recorded': event(
    object({
      ...money,
      customer: text(),
      method: oneOf('bank', 'card', 'cash', 'cheque'),
      day: day(),
      invoices: list(text()),
      discount: decimal<Amount>(),
      onAccount: decimal<Amount>(),
    }),
    ({ customer, method, day: on, invoices, discount, onAccount, ...amount }, today) =>
      [
        `recorded ${inWords(amount)} from ${customer} by ${method === 'bank' ? 'bank transfer' : method} on ${shortDay(on, today)}`,
        invoices.length > 0 ? `for ${invoices.join(', ')}` : '',
        Number(discount) > 0 ? `with a discount of ${amountInWords(discount)}` : '',
        Number(onAccount) > 0 ? `${amountInWords(onAccount)} stays on account` : '',
      ]
        .filter(Boolean)
        .join(', '),
  ),
  'payment.applied': event(
    object({ ...money, customer: text(), invoices: list(text()) }),
    ({ invoices, ...amount }) => `settled ${invoices.join(', ')} with ${inWords(amount)} from the account`,
  ),
  'payment.reversed': event(
    object({ ...money, customer: text(), day: day() }),
    ({ customer, day: on, ...amount }, today) => `reversed the payment of ${inWords(amount)} from ${customer} on ${shortDay(on, today)}`,
  ),
  'credit_note.applied': event(
    object({ ...money, number: text(), invoices: list(text()) }),
    ({ number, invoices, ...amount }) => `settled ${invoices.join(', ')} with ${inWords(amount)} of credit note ${number}`,
  ),
  'month.closed': event(
    object({ month: day(), entries: integer() }),
    ({ month, entries }) => `closed the month ${month.slice(0, 7)}: ${count(entries, 'entry', 'entries')}`,
  ),
  'billing.set': event(
    object({ customer: text(), terms: text(), exempt: flag(), rule: text() }),
    ({ customer, terms, rule }) => `set how ${customer} is billed: ${rule === 'shipment' ? 'at shipping' : rule}, ${terms}`,
  ),
  'tax_class.set': event(
    object({ name: text(), percent: decimal(), was: note(20) }),
    ({ name, percent, was }) => `set the tax of ${name} to ${percent} %, was ${was} %`,
  ),
};
