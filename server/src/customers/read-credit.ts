import { takeLocks } from '../locks';
import type { CreditView } from '@nockwright/contract/customers';
import { creditLeft, exposureOf, type CreditFacts } from '@nockwright/core/credit';
import { roundMoney } from '@nockwright/core/money';
import { sql } from 'kysely';
import type { Db, Trx } from '../database';

/** What a customer owes and will owe, in the firm's currency. */
export interface CustomerCredit extends CreditFacts {
  readonly currency: string;
}

/** What a customer owes and will owe, by the rows as they stand. */
export async function readCredit(db: Db, customer: number, today: string): Promise<CustomerCredit> {
  return (await readCredits(db, [customer], today)).get(customer)!;
}

/** The same of several customers, by customer. */
async function readCredits(db: Db, customers: readonly number[], today: string): Promise<Map<number, CustomerCredit>> {
  const { rows } = await sql<CustomerCredit & { readonly id: number }>`
    select c.id, c.credit_limit as "limit", firm_currency() as currency,
      (select coalesce(sum(case kind when 'invoice' then amount - paid else paid - amount end), 0) from invoice where customer_id = c.id and paid < amount)
        - (select coalesce(sum(amount - applied), 0) from payment where customer_id = c.id and applied < amount and reversed_at is null) as unpaid,
      (select coalesce(sum(amount - paid), 0) from invoice where customer_id = c.id and kind = 'invoice' and paid < amount and due_day < ${today}) as overdue,
      (select min(due_day) from invoice where customer_id = c.id and kind = 'invoice' and paid < amount and due_day < ${today}) as "overdueSince",
      (select coalesce(sum(round(x.quantity * l.price * l.denominator / l.numerator, 2)), 0)
        from sales_order o join shipment s on s.order_id = o.id join shipment_line x on x.shipment_id = s.id join order_line l on l.id = x.order_line_id
        where o.customer_id = c.id and s.state = 'shipped' and s.invoice_id is null) as "shippedNotBilled",
      (select coalesce(sum(round((l.stock_quantity - l.shipped - l.cancelled) * l.price * l.denominator / l.numerator, 2)), 0)
        from sales_order o join order_line l on l.order_id = o.id
        where o.customer_id = c.id and o.state = 'released' and l.shipped + l.cancelled < l.stock_quantity) as "openOrders"
    from customer c where c.id = any(${customers})`.execute(db);
  return new Map(rows.map(({ id, ...facts }) => [id, facts]));
}

/** What customers owe, under lock, by customer: no other order of theirs is released meanwhile. */
export async function lockCredits(trx: Trx, customers: readonly number[], today: string): Promise<Map<number, CustomerCredit>> {
  await takeLocks(trx, { customers: customers });
  return readCredits(trx, customers, today);
}

export function creditView(facts: CustomerCredit): CreditView {
  const { limit, overdue, overdueSince, unpaid, shippedNotBilled, openOrders } = facts;
  const money = (value: string) => roundMoney(value, facts.currency);
  const left = creditLeft(facts);
  return {
    limit: limit === null ? null : money(limit),
    unpaid: money(unpaid),
    shippedNotBilled: money(shippedNotBilled),
    openOrders: money(openOrders),
    exposure: money(exposureOf(facts)),
    left: left === null ? null : money(left),
    overdue: money(overdue),
    overdueSince,
  };
}
