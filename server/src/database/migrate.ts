import { Migrator, sql, type Kysely } from 'kysely';
import * as orderDesk from './migrations/0001_order_desk';
import * as ripple from './migrations/0002_ripple';
import * as contracts from './migrations/0003_contracts';
import * as find from './migrations/0004_find';
import * as credit from './migrations/0005_credit';
import * as quotes from './migrations/0006_quotes';
import * as entry from './migrations/0007_entry';
import * as mail from './migrations/0008_mail';
import * as orderList from './migrations/0009_order_list';
import * as routes from './migrations/0010_routes';
import * as stockPlaces from './migrations/0011_stock_places';
import * as exchange from './migrations/0012_exchange';
import * as toldDays from './migrations/0013_told_days';
import * as firstDays from './migrations/0014_first_days';
import * as indexes from './migrations/0015_indexes';
import * as lateness from './migrations/0016_lateness';
import * as stepsAndTasks from './migrations/0017_steps_and_tasks';
import * as expiry from './migrations/0018_expiry';
import * as toldBeforeRoutes from './migrations/0019_told_before_routes';
import * as priceSetBy from './migrations/0020_price_set_by';
import * as supplierAnswers from './migrations/0021_supplier_answers';
import * as findByPlace from './migrations/0022_find_by_place';
import * as clearedCosts from './migrations/0023_cleared_costs';
import * as exactPrices from './migrations/0024_exact_prices';
import * as listVersions from './migrations/0025_list_versions';
import * as moreForLess from './migrations/0026_more_for_less';
import * as orderHead from './migrations/0027_order_head';
import * as mailClaims from './migrations/0028_mail_claims';
import * as knownDevices from './migrations/0029_known_devices';
import * as answerLinks from './migrations/0030_answer_links';
import * as accounts from './migrations/0031_accounts';
import * as boughtBeside from './migrations/0032_bought_beside';
import * as standingInTurn from './migrations/0033_standing_in_turn';
import * as keptBoards from './migrations/0034_kept_boards';
import * as firm from './migrations/0035_firm';
import * as eventKinds from './migrations/0036_event_kinds';
import * as customerPages from './migrations/0037_customer_pages';
import * as causes from './migrations/0038_causes';
import * as picking from './migrations/0039_picking';
import * as counter from './migrations/0040_counter';
import * as serials from './migrations/0041_serials';
import * as despatch from './migrations/0042_despatch';
import * as billing from './migrations/0043_billing';
import * as ledger from './migrations/0044_ledger';
import * as bank from './migrations/0045_bank';
import * as payables from './migrations/0046_payables';
import { QUEUE_SCHEMA } from './queues';

/** In the sequence they are applied. */
const MIGRATIONS = {
  '0001_order_desk': orderDesk,
  '0002_ripple': ripple,
  '0003_contracts': contracts,
  '0004_find': find,
  '0005_credit': credit,
  '0006_quotes': quotes,
  '0007_entry': entry,
  '0008_mail': mail,
  '0009_order_list': orderList,
  '0010_routes': routes,
  '0011_stock_places': stockPlaces,
  '0012_exchange': exchange,
  '0013_told_days': toldDays,
  '0014_first_days': firstDays,
  '0015_indexes': indexes,
  '0016_lateness': lateness,
  '0017_steps_and_tasks': stepsAndTasks,
  '0018_expiry': expiry,
  '0019_told_before_routes': toldBeforeRoutes,
  '0020_price_set_by': priceSetBy,
  '0021_supplier_answers': supplierAnswers,
  '0022_find_by_place': findByPlace,
  '0023_cleared_costs': clearedCosts,
  '0024_exact_prices': exactPrices,
  '0025_list_versions': listVersions,
  '0026_more_for_less': moreForLess,
  '0027_order_head': orderHead,
  '0028_mail_claims': mailClaims,
  '0029_known_devices': knownDevices,
  '0030_answer_links': answerLinks,
  '0031_accounts': accounts,
  '0032_bought_beside': boughtBeside,
  '0033_standing_in_turn': standingInTurn,
  '0034_kept_boards': keptBoards,
  '0035_firm': firm,
  '0036_event_kinds': eventKinds,
  '0037_customer_pages': customerPages,
  '0038_causes': causes,
  '0039_picking': picking,
  '0040_counter': counter,
  '0041_serials': serials,
  '0042_despatch': despatch,
  '0043_billing': billing,
  '0044_ledger': ledger,
  '0045_bank': bank,
  '0046_payables': payables,
};

/**
 * Brings the schema up to date, forward only. Kysely holds an advisory lock, so that of several servers started at once
 * one migrates and the others wait. `application` is the role the server works as: it may read and write rows, but
 * neither change the schema nor touch an event once it is written.
 */
export async function migrate(db: Kysely<unknown>, application: string): Promise<void> {
  const migrator = new Migrator({
    db,
    provider: {
      getMigrations: async () => MIGRATIONS,
    },
  });
  const { error } = await migrator.migrateToLatest();
  if (error) throw error;
  const role = sql.id(application);
  for (const schema of ['public', QUEUE_SCHEMA]) {
    await sql`grant usage on schema ${sql.id(schema)} to ${role}`.execute(db);
    await sql`grant select, insert, update, delete on all tables in schema ${sql.id(schema)} to ${role}`.execute(db);
    await sql`grant usage on all sequences in schema ${sql.id(schema)} to ${role}`.execute(db);
  }
  for (const table of ['event', 'event_subject', 'stock_movement', 'stock_movement_place'])
    await sql`revoke update, delete on ${sql.table(table)} from ${role}`.execute(db);
  // Of an invoice nothing changes but what is settled of it, and lines, taxes and settlements never do.
  for (const table of ['invoice', 'invoice_line', 'invoice_tax', 'settlement', 'refund', 'bank_file'])
    await sql`revoke update, delete on ${sql.table(table)} from ${role}`.execute(db);
  await sql`grant update (paid) on invoice to ${role}`.execute(db);
  // The ledger posts itself.
  for (const table of ['ledger_account', 'posting_rule', 'ledger_entry', 'ledger_line', 'stock_value', 'movement_value'])
    await sql`revoke insert, update, delete on ${sql.table(table)} from ${role}`.execute(db);
  await sql`revoke update, delete on ledger_period from ${role}`.execute(db);
  for (const table of ['kysely_migration', 'kysely_migration_lock']) await sql`revoke all on ${sql.table(table)} from ${role}`.execute(db);
}
