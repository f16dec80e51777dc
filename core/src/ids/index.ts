/**
 * A number or text of one sort, which cannot be taken for another: an order's id is no line's id, a price no quantity. What
 * comes plain, a literal or a value of the wire, is taken for any of them; what is one already is not taken for another.
 */
export type Sort<T, Name extends string> = T & { readonly sort?: Name };

/** Ids of rows. */
export type UserId = Sort<number, 'user'>;
export type CustomerId = Sort<number, 'customer'>;
export type ShipToId = Sort<number, 'ship-to address'>;
export type ContractId = Sort<number, 'contract'>;
export type ContractLineId = Sort<number, 'contract line'>;
export type OrderId = Sort<number, 'order'>;
export type LineId = Sort<number, 'order line'>;
export type RouteId = Sort<number, 'route'>;
export type PurchaseId = Sort<number, 'purchase'>;
export type PurchaseLineId = Sort<number, 'purchase line'>;
export type TransferId = Sort<number, 'transfer'>;
export type TransferLineId = Sort<number, 'transfer line'>;
export type AssemblyId = Sort<number, 'assembly'>;
export type ShipmentId = Sort<number, 'shipment'>;
export type MailId = Sort<number, 'mail'>;

/** Codes that people give. */
export type ItemCode = Sort<string, 'item'>;
export type WarehouseCode = Sort<string, 'warehouse'>;
export type SupplierCode = Sort<string, 'supplier'>;
