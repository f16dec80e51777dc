import { sql, type Kysely } from 'kysely';

/** The day transfers and assemblies were first to be there: what was promised from them was promised for it. */
export async function up(db: Kysely<unknown>): Promise<void> {
  await sql.raw(FIRST_DAYS).execute(db);
}

const FIRST_DAYS = ['transfer_order', 'assembly_order']
  .map(
    (table) => `
alter table ${table} add column first_day date;
update ${table} set first_day = expected_day;
create trigger ${table}_first_day before insert on ${table} for each row execute function purchase_line_first_day();
alter table ${table} alter column first_day set not null;`,
  )
  .join('\n');
