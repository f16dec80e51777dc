import { sql, type Kysely } from 'kysely';

/**
 * What is read with every promise and every change of supply is found by an index, however long the desk has been at work: the
 * newest receipts of a supplier, by which odds go, and what hangs on a line of a paper.
 */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql.raw(INDEXES).execute(db);
}

const INDEXES = `
drop index supplier_receipt_supplier;
create index supplier_receipt_newest on supplier_receipt (supplier, id desc) include (promised_day, received_day);

create index line_route_purchase_line on line_route (purchase_line_id) where purchase_line_id is not null;
create index line_route_transfer_line on line_route (transfer_line_id) where transfer_line_id is not null;
create index line_route_assembly on line_route (assembly_id) where assembly_id is not null;
create index line_route_new_line on line_route (new_line_id) where new_line_id is not null;
create index order_line_stands_for on order_line (stands_for) where stands_for is not null;

create index purchase_order_supplier on purchase_order (supplier);
create index despatch_notice_line_purchase_line on despatch_notice_line (purchase_line_id);
create index shipment_purchase on shipment (purchase_id) where purchase_id is not null;`;
