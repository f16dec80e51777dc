import type { Finding } from '@nockwright/contract/history';
import type { OrderId, SupplierCode } from '@nockwright/core/ids';

export interface Purchase {
  readonly id: number;
  readonly number: string;
  readonly state: string;
  readonly kind: 'stock' | 'drop_ship';
  readonly supplier: SupplierCode;
  readonly supplier_name: string;
  readonly order_id: OrderId | null;
}

/** What a message comes to: what is not as ordered, the order lines it hurts, and whether it waits for a person. */
export interface Taken {
  readonly findings: readonly Finding[];
  readonly lines: readonly number[];
  readonly held?: true;
  /** Not as ordered, and no work for anybody. */
  readonly quiet?: true;
}
