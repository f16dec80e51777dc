import { sql, type Kysely } from 'kysely';

/** The day a customer was told a drop shipment leaves the supplier; the day it is expected to may have moved since. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql.raw(TOLD).execute(db);
}

const TOLD = `
alter table purchase_line add column told_day date;
update purchase_line set told_day = expected_day where warehouse is null;
alter table purchase_line add constraint told_of_drop_shipments check ((told_day is not null) = (warehouse is null));
create index purchase_line_drop_open on purchase_line (order_line_id) where warehouse is null and received + closed < quantity;
`;
