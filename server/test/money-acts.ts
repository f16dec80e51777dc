import { bankRoutes, invoiceRoutes, paymentRoutes } from '@nockwright/contract/billing';
import { payableRoutes } from '@nockwright/contract/payables';
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
      const chargeback = dice.chance(30) ? { chargeback: true, fee: '4.50' } : {};
      return standing.length > 0
        ? attempt(paymentRoutes.reversePayment, { params: { payment: dice.pick(standing).id }, body: { reason: 'test', ...chargeback } })
        : null;
    },
    /** A file of the bank comes in, sure movements are booked, a doubtful one as somebody says, or set aside. */
    bank: async (dice: Dice) => {
      const { invoices } = await desk.call('mona', paymentRoutes.readMoney, { params: { customer: dice.whole(1, 2) } });
      const rows = invoices.slice(0, 2).map((row) => `2027-03-08,${row.open},${dice.chance(70) ? row.number : 'thanks'},${dice.whole(1, 1e6)}`);
      const content = ['day,amount,text,id', ...rows, `2027-03-08,${dice.chance(50) ? '-' : ''}${dice.whole(1, 90)}.00,x,${dice.whole(1, 1e6)}`].join('\n');
      await attempt(bankRoutes.addBankFile, { body: { name: 'bank.csv', content } });
      if (dice.chance(60)) return attempt(bankRoutes.bookSureEntries, { body: {} });
      const waiting = await desk.call('mona', bankRoutes.listBankEntries, { query: {} });
      if (waiting.rows.length === 0) return null;
      const { id, proposals } = dice.pick(waiting.rows);
      const [first] = proposals;
      if (!first || dice.chance(30)) return attempt(bankRoutes.setBankEntryAside, { params: { entry: id }, body: { why: 'test' } });
      const settled = first.settled.map(({ invoice, amount, discount }) => ({ invoice, amount, discount }));
      return attempt(bankRoutes.bookBankEntry, { params: { entry: id }, body: { customer: first.customer, settled } });
    },
    refund: async (dice: Dice) => {
      const customer = dice.whole(1, 2);
      const money = await desk.call('mona', paymentRoutes.readMoney, { params: { customer } });
      const note = dice.chance(50) ? money.credits[0] : undefined;
      const amount = note?.open ?? money.onAccount;
      if (Number(amount) <= 0) return null;
      return attempt(paymentRoutes.refundCustomer, {
        params: { customer },
        body: { amount, method: 'bank', reason: 'test', ...(note ? { credit: note.id } : {}) },
      });
    },
    /** What came from a supplier is invoiced, as ordered or dearer, and accepted, refused or paid. */
    supplierInvoice: async (dice: Dice) => {
      const { rows } = await desk.call('mona', payableRoutes.listSupplierInvoices, { query: { state: dice.pick(['held', 'accepted'] as const) } });
      if (rows.length > 0 && dice.chance(60)) {
        const { id, version, state } = await desk.call('mona', payableRoutes.readSupplierInvoice, { params: { payable: dice.pick(rows).id } });
        const params = { payable: id };
        if (state === 'accepted') return attempt(payableRoutes.paySupplierInvoice, { params, body: { version, day: '2027-03-09' } });
        const route = dice.chance(60) ? payableRoutes.acceptSupplierInvoice : payableRoutes.refuseSupplierInvoice;
        return attempt(route, { params, body: { version, reason: 'test' } });
      }
      const open = await desk.call('mona', payableRoutes.listInvoiceable, { params: { supplier: 'SUP' } });
      if (open.length === 0) return null;
      const { line, quantity, cost } = dice.pick(open);
      const price = dice.chance(60) ? cost : String(Number(cost) + dice.whole(1, 3));
      const total = (Math.round(Number(quantity) * Number(price) * 100) / 100).toFixed(2);
      const body = { supplier: 'SUP', number: `S-${dice.whole(1, 1e6)}`, day: '2027-03-08', dueDay: '2027-04-08', freight: '0', tax: '0', total };
      return attempt(payableRoutes.enterSupplierInvoice, { body: { ...body, lines: [{ line, quantity, price }] } });
    },
  };
}
