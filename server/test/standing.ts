import { createHash, randomBytes } from 'node:crypto';
import { readdirSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { fileURLToPath } from 'node:url';
import { hash } from '@node-rs/argon2';
import { sql } from 'kysely';
import type pg from 'pg';
import { connect, migrate, type Db } from '../src/database';
import { POOL_GUARD } from './pool-guard';
import { KEEP_STANDING } from './put-back';

export const PASSWORD = 'a-long-test-password';
export const USERS = [
  ['ida', 'coordinator'],
  ['sam', 'coordinator'],
  ['wil', 'warehouse'],
  ['fay', 'finance'],
  ['mona', 'manager'],
] as const;

const MIGRATIONS = fileURLToPath(new URL('../src/database/migrations', import.meta.url));
const LOCK = 20_270_309;

/**
 * The database every test desk is copied from: migrated, with what stands before anything is sold. It is made once for
 * each state of the migrations; of several workers that find it missing the first makes it.
 */
export async function standingTemplate(admin: pg.Client, cluster: string): Promise<string> {
  const digest = createHash('sha256');
  for (const file of readdirSync(MIGRATIONS).sort()) digest.update(readFileSync(join(MIGRATIONS, file)));
  digest.update(readFileSync(join(MIGRATIONS, '..', 'migrate.ts')));
  digest.update(readFileSync(fileURLToPath(import.meta.url)));
  digest.update(POOL_GUARD + KEEP_STANDING);
  const name = `standing_${digest.digest('hex').slice(0, 16)}`;
  await admin.query('select pg_advisory_lock($1)', [LOCK]);
  try {
    const { rowCount } = await admin.query('select from pg_database where datname = $1', [name]);
    if (rowCount === 0) await makeTemplate(admin, cluster, name);
  } finally {
    await admin.query('select pg_advisory_unlock($1)', [LOCK]);
  }
  return name;
}

async function makeTemplate(admin: pg.Client, cluster: string, name: string) {
  await admin.query('do $$ begin create role nock_app login; exception when duplicate_object or unique_violation then null; end $$');
  // It gets its name when it is whole.
  const draft = `draft_${randomBytes(6).toString('hex')}`;
  await admin.query(`create database ${draft}`);
  const url = new URL(cluster);
  url.pathname = `/${draft}`;
  const owner = connect(url.href, 2);
  await migrate(owner.db as never, 'nock_app');
  await loadStanding(owner.db);
  await sql.raw(POOL_GUARD).execute(owner.db);
  await sql.raw(KEEP_STANDING).execute(owner.db);
  await owner.pool.end();
  await admin.query(`alter database ${draft} rename to ${name}`);
}

async function loadStanding(db: Db) {
  const password_hash = await hash(PASSWORD, { timeCost: 1, memoryCost: 1024 });
  await db
    .insertInto('app_user')
    .values(USERS.map(([login, role]) => ({ login, name: login, role, password_hash })))
    .execute();
  await db
    .updateTable('firm')
    .set({ name: 'Marrowby Apiary Supply', code: 'MARROWBY', email: 'orders@marrowby.example', country: 'GB', tax_number: 'GB123456789' })
    .execute();
  await db
    .insertInto('number_series')
    .values([
      { name: 'order', next: 20001 },
      { name: 'purchase', next: 7001, prefix: 'P' },
    ])
    .execute();
  const warehouse = { workdays: [1, 2, 3, 4, 5], cutoff: '14:00', receiving_days: 1, address: '1 Dock' };
  await db
    .insertInto('warehouse')
    .values([
      { ...warehouse, code: 'MAR', name: 'Marrowby' },
      { ...warehouse, code: 'QUI', name: 'Quillhaven' },
    ])
    .execute();
  await db.insertInto('carrier_service').values({ code: 'GROUND', name: 'Ground', transit_days: 1 }).execute();
  await db
    .insertInto('price_list')
    .values([
      { code: 'LIST', name: 'list' },
      { code: 'COOP', name: 'co-operatives' },
    ])
    .execute();
  const address = { street: '1 Lane', postcode: 'AB1 2CD', town: 'Nether Combe', country: 'GB' };
  const customer = {
    ...address,
    contact: 'Nora',
    phone: '01632 960114',
    email: 'a@b.example',
    warehouse: 'MAR',
    carrier_service: 'GROUND',
    price_list: null,
    terms_days: 30,
  };
  await db
    .insertInto('customer')
    .values([
      { ...customer, number: 'C1', name: 'Wether Hill', delivery_rule: 'parts' },
      { ...customer, number: 'C2', name: 'Garrick & Lowe', delivery_rule: 'complete' },
    ])
    .execute();
  await db
    .insertInto('ship_to')
    .values([
      { ...address, customer_id: 1, name: 'Shed' },
      { ...address, customer_id: 2, name: 'Store' },
    ])
    .execute();
  const item = { item_group: 'Jars', unit: 'EA', weight: '0.2', list_price: '0.52', cost: '0.31' };
  await db
    .insertInto('item')
    .values(['JAR', 'LID', 'BOX', 'TUB'].map((code) => ({ ...item, code, description: `${code} of glass` })))
    .execute();
  await db
    .insertInto('item')
    .values({ ...item, code: 'OLD', description: 'No longer made', discontinued: true, successor: 'JAR' })
    .execute();
  await db
    .insertInto('item')
    .values(['KIT', 'CRATE'].map((code) => ({ ...item, code, description: `${code} put together here`, item_group: 'Sets', assembly_days: 1 })))
    .execute();
  await db
    .insertInto('item_component')
    .values([
      { item: 'KIT', component: 'JAR', quantity: '1' },
      { item: 'KIT', component: 'LID', quantity: '1' },
      { item: 'CRATE', component: 'KIT', quantity: '2' },
      { item: 'CRATE', component: 'BOX', quantity: '1' },
    ])
    .execute();
  await db.insertInto('item_substitute').values({ item: 'BOX', substitute: 'TUB', ratio: '2' }).execute();
  await db
    .insertInto('transfer_lane')
    .values([
      { from_warehouse: 'MAR', to_warehouse: 'QUI', transit_days: 1, cost_per_kg: '0.1' },
      { from_warehouse: 'QUI', to_warehouse: 'MAR', transit_days: 1, cost_per_kg: '0.1' },
    ])
    .execute();
  await db
    .insertInto('item_unit')
    .values([
      { item: 'JAR', unit: 'DZN', numerator: 12, denominator: 1 },
      { item: 'JAR', unit: 'XTY', numerator: 24, denominator: 1 },
    ])
    .execute();
  await db
    .insertInto('supplier')
    .values([
      { code: 'SUP', name: 'Tarnbeck', email: 's@b.example', lead_days: 5, drop_ships: true, drop_ship_fee: '10' },
      { code: 'SLOW', name: 'Slow and Sons', email: 's@b.example', lead_days: 15, drop_ships: false, drop_ship_fee: '0' },
    ])
    .execute();
  await db
    .insertInto('supplier_item')
    .values(
      ['JAR', 'LID', 'BOX'].flatMap((code) =>
        ['SUP', 'SLOW'].map((supplier) => ({ supplier, item: code, their_code: 'X', cost: '0.33', lead_days: null, minimum: '1', multiple: '1' })),
      ),
    )
    .execute();
}
