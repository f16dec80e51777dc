import { sql, type Kysely } from 'kysely';

/** How late each supplier's newest receipts were, counted once when they come in and not with every promise that goes by them. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql.raw(LATENESS).execute(db);
}

const LATENESS = `
create table supplier_lateness (
  supplier text not null references supplier,
  days integer not null,
  receipts integer not null check (receipts > 0),
  primary key (supplier, days)
);

/* A record older than four hundred receipts of a supplier says little about today. */
create function count_lateness(of_supplier text) returns void language plpgsql as $$
begin
  delete from supplier_lateness where supplier = of_supplier;
  insert into supplier_lateness (supplier, days, receipts)
    select of_supplier, late, count(*) from (
      select received_day - promised_day as late from supplier_receipt where supplier = of_supplier order by id desc limit 400
    ) newest group by late;
end $$;

/* Two receipts of one supplier at once are counted one after the other, each with all that was booked before. */
create function supplier_receipt_counted() returns trigger language plpgsql as $$
declare
  of_supplier text;
begin
  for of_supplier in select distinct supplier from added order by supplier loop
    perform pg_advisory_xact_lock(hashtext('supplier_lateness'), hashtext(of_supplier));
    perform count_lateness(of_supplier);
  end loop;
  return null;
end $$;
create trigger supplier_receipt_counted after insert on supplier_receipt referencing new table as added
  for each statement execute function supplier_receipt_counted();

select count_lateness(code) from supplier;`;
