import { invoiceRoutes, paymentRoutes } from '@nockwright/contract/billing';
import type { Dice } from '../../demo/dice';
import type { DeskClient } from './desk-client';
import type { Attempt } from './routing-acts';

/** What a finance clerk does, drawn by the dice. */
export function moneyActs(desk: DeskClient, attempt: Attempt) {
  async function anyInvoice(dice: Dice, kind: 'invoice' | 'credit_note') {
    const { rows } = await desk.call('mona', invoiceRoutes.listInvoices, { query: { state: 'all' } });
    const found = rows.filter((row) => row.kind === kind);
    return found.length > 0 ? desk.call('mona', invoiceRoutes.readInvoice, { params: { invoice: dice.pick(found).id } }) : null;
  }

  return {
    bill: async (dice: Dice) => {
      if (dice.chance(40)) return attempt(invoiceRoutes.billNext, { body: {} });
      const groups = await desk.call('mona', invoiceRoutes.listBillable, { query: {} });
      if (groups.length === 0) return null;
      const { shipments } = dice.pick(groups);
      const chosen = shipments.filter(() => dice.chance(60)).map((row) => row.id);
      if (chosen.length === 0) return null;
      const { status, reply } = await desk.send('mona', invoiceRoutes.previewInvoice, { query: { shipments: chosen.join(',') } });
      return status === 200 ? attempt(invoiceRoutes.issueInvoice, { body: { shipments: chosen, total: reply.total } }) : null;
    },
    credit: async (dice: Dice) => {
      const invoice = await anyInvoice(dice, 'invoice');
      if (!invoice || invoice.lines.length === 0) return null;
      const line = dice.pick(invoice.lines);
      const quantity = dice.chance(50) ? line.quantity : '1';
      const part = dice.chance(40) ? { perUnit: '0.01' } : {};
      return attempt(invoiceRoutes.creditInvoice, { params: { invoice: invoice.id }, body: { lines: [{ line: line.id, quantity, ...part }], reason: 'test' } });
    },
    pay: async (dice: Dice) => {
      const customer = dice.whole(1, 2);
      const params = { customer };
      const money = await desk.call('mona', paymentRoutes.readMoney, { params });
      const used = money.payments.find((row) => Number(row.onAccount) > 0);
      const target = money.invoices[0];
      if (used && target && dice.chance(40)) {
        const amount = String(Math.min(Number(used.onAccount), Number(target.open)));
        return attempt(paymentRoutes.applyPayment, { params: { payment: used.id }, body: { settled: [{ invoice: target.id, amount, discount: '0' }] } });
      }
      const note = money.credits[0];
      if (note && target && dice.chance(50)) {
        const amount = String(Math.min(Number(note.open), Number(target.open)));
        return attempt(paymentRoutes.applyCredit, { params: { invoice: note.id }, body: { settled: [{ invoice: target.id, amount, discount: '0' }] } });
      }
      const amount = target && dice.chance(50) ? target.open : `${dice.whole(1, 40)}.${dice.whole(10, 99)}`;
      const { status, reply } = await desk.send('mona', paymentRoutes.proposePayment, { params, query: { amount } });
      return status === 200
        ? attempt(paymentRoutes.recordPayment, { params, body: { day: '2027-03-08', method: 'bank', amount, reference: 'test', settled: reply.settled } })
        : null;
    },
    unpay: async (dice: Dice) => {
      const { payments, invoices } = await desk.call('mona', paymentRoutes.readMoney, { params: { customer: dice.whole(1, 2) } });
      const open = invoices[0];
      if (open && dice.chance(40)) return attempt(invoiceRoutes.writeOff, { params: { invoice: open.id }, body: { amount: '0.01', reason: 'test' } });
      const standing = payments.filter((row) => row.reversed === '');
      return standing.length > 0 ? attempt(paymentRoutes.reversePayment, { params: { payment: dice.pick(standing).id }, body: { reason: 'test' } }) : null;
    },
  };
}
