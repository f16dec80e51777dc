import { paymentRoutes, type MoneyView } from '@nockwright/contract/billing';
import type { BodyOf } from '@nockwright/contract/shape';
import type { Api } from '../api';
import { fieldsOf, recordOf } from '../paper';

type Refund = BodyOf<typeof paymentRoutes.refundCustomer>;
const REFUND = fieldsOf<Refund>([
  { name: 'amount', label: 'Amount', kind: 'figure' },
  {
    name: 'method',
    label: 'How',
    kind: 'choice',
    choices: [
      ['bank', 'Bank transfer'],
      ['card', 'Card'],
      ['cash', 'Cash'],
      ['cheque', 'Cheque'],
    ],
  },
  { name: 'reason', label: 'Why', most: 300 },
]);

/** What is given back: of a credit note, else of what is on account. */
export function refundRecord(api: Api, money: MoneyView, credit?: MoneyView['credits'][number]) {
  return recordOf<Refund, MoneyView>({
    heading: credit ? `Give back of credit note ${credit.number}` : 'Give back what is on account',
    act: 'Give back',
    name: 'refund',
    subject: credit?.id ?? 0,
    fields: REFUND,
    value: { amount: credit?.open ?? money.onAccount, method: 'bank' },
    route: paymentRoutes.refundCustomer,
    send: (body) =>
      api.call(paymentRoutes.refundCustomer, { params: { customer: money.customerId }, body: { ...body, ...(credit ? { credit: credit.id } : {}) } }),
  });
}
