import { amountInWords, type Amount } from '@nockwright/core/money';
import { shortDay } from '@nockwright/core/calendar';
import { day, decimal, flag, integer, list, note, object, oneOf, optional, text } from '../shape';
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
      order: optional(text()),
    }),
    ({ customer, method, day: on, invoices, discount, onAccount, order, ...amount }, today) =>
      [
        `recorded ${inWords(amount)} from ${customer} by ${method === 'bank' ? 'bank transfer' : method} on ${shortDay(on, today)}`,
        order ? `a deposit for order ${order}` : '',
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
    object({ ...money, customer: text(), day: day(), chargeback: optional(flag()), fee: optional(decimal<Amount>()) }),
    ({ customer, day: on, chargeback, fee = '0', ...amount }, today) =>
      `${chargeback ? 'recorded a chargeback of' : 'reversed'} the payment of ${inWords(amount)} from ${customer} on ${shortDay(on, today)}${
        Number(fee) > 0 ? `; the bank charges ${amountInWords(fee)}` : ''
      }`,
  ),
  'credit_note.applied': event(
    object({ ...money, number: text(), invoices: list(text()) }),
    ({ number, invoices, ...amount }) => `settled ${invoices.join(', ')} with ${inWords(amount)} of credit note ${number}`,
  ),
  'payment.refunded': event(
    object({ ...money, customer: text(), of: text() }),
    ({ customer, of, ...amount }) => `gave ${inWords(amount)} back to ${customer}, of ${of}`,
  ),
  'bank.file_added': event(
    object({ name: text(), found: integer(), added: integer() }),
    ({ name, found, added }) => `took in the bank file ${name}: ${count(found, 'movement')}, ${added} of them new`,
  ),
  'bank.booked': event(object({ booked: list(object({ customer: text(), amount: decimal<Amount>() })), sure: flag() }), ({ booked, sure }) =>
    booked.length === 1
      ? `booked ${amountInWords(booked[0]!.amount)} from the bank as a payment of ${booked[0]!.customer}`
      : `booked ${count(booked.length, 'payment')} from the bank${sure ? ' that were sure' : ''}`,
  ),
  'bank.set_aside': event(
    object({ amount: decimal<Amount>(), party: note(140), aside: flag() }),
    ({ amount, party, aside }) => `${aside ? 'set aside' : 'took up again'} a bank movement of ${amountInWords(amount)}${party ? `, ${party}` : ''}`,
  ),
  'supplier_invoice.entered': event(
    object({ ...money, number: text(), supplier: text(), differs: integer() }),
    ({ number, supplier, differs, ...amount }) =>
      `entered invoice ${number} of ${supplier} for ${inWords(amount)}: ${differs === 0 ? 'it matches' : `${count(differs, 'difference')}`}`,
  ),
  'supplier_invoice.decided': event(
    object({ ...money, number: text(), supplier: text(), differs: integer(), how: oneOf('accepted', 'refused', 'paid') }),
    ({ number, supplier, how, ...amount }) => `${how} invoice ${number} of ${supplier} for ${inWords(amount)}`,
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
