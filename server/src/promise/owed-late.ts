import type { ItemCode, SupplierCode } from '@nockwright/core/ids';
import { sql, type RawBuilder } from 'kysely';

/**
 * The day a supplier now says for goods of an item that are on order and later than they first said: no order placed
 * today overtakes it. `item` and `supplier` name columns of the statement around it.
 */
export function owedLate(item: ItemCode, supplier: SupplierCode): RawBuilder<string | null> {
  return sql<string | null>`(select max(owed.expected_day)::text from purchase_line owed join purchase_order owing on owing.id = owed.purchase_id
    where owed.item = ${sql.ref(item)} and owing.supplier = ${sql.ref(supplier)} and owing.state in ('sent', 'acknowledged')
      and owed.received + owed.closed < owed.quantity and owed.expected_day > owed.first_day)`;
}
