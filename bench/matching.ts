import { indexPayers, proposePayers, type BankEntry, type BankInvoice } from '@nockwright/core/bank';
import { creditorReference } from '@nockwright/core/billing';
import { rollDice } from '../demo/dice';
import { least, type Figure } from './measure';

const PAYMENTS = 5_000;
const INVOICES = 20_000;
const CUSTOMERS = 3_000;
const RUNS = 3;

/** Payments from the bank matched with open invoices: a third by reference, a third by number, a third by name and amount; against parsing the invoices from JSON. */
export function measureMatching(): Figure[] {
  const dice = rollDice(53);
  const invoices = Array.from({ length: INVOICES }, (_, id): BankInvoice => {
    const open = `${dice.whole(10, 4000)}.${dice.whole(10, 99)}`;
    const number = `I${id + 10_000}`;
    const due = `2027-03-${String((id % 28) + 1).padStart(2, '0')}`;
    return {
      id,
      number,
      customer: id % CUSTOMERS,
      reference: creditorReference(number),
      total: open,
      open,
      dueDay: due,
      discountUntil: null,
      discountPercent: '0',
    };
  });
  const customers = Array.from({ length: CUSTOMERS }, (_, id) => ({ id, name: `Customer ${id} of ${['Moor', 'Fell', 'Dale'][id % 3]} Ltd` }));
  const entries = Array.from({ length: PAYMENTS }, (_, at): BankEntry => {
    const invoice = dice.pick(invoices);
    const common = { key: String(at), day: '2027-03-08', amount: invoice.open, direction: 'in' as const, party: '', partyAccount: '', reference: '', text: '' };
    if (at % 3 === 0) return { ...common, reference: invoice.reference };
    if (at % 3 === 1) return { ...common, text: `invoice ${invoice.number}` };
    return { ...common, party: customers[invoice.customer]!.name };
  });
  const json = JSON.stringify(invoices);
  const parsed = least(() => JSON.parse(json) as unknown, RUNS);
  const taken = least(() => {
    const index = indexPayers(invoices, customers, []);
    return entries.map((entry) => proposePayers(entry, index, () => '0'));
  }, RUNS);
  const name = `matching ${PAYMENTS.toLocaleString('en')} payments with ${INVOICES.toLocaleString('en')} open invoices`;
  return [{ name, ratio: taken / parsed, against: 'parsing those invoices from JSON' }];
}
