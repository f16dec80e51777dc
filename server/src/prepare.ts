import { connect, migrate } from './database';

/** Brings the schema of the database at NOCK_OWNER_DATABASE up to date, for the role nock_app to work with. */
async function main() {
  const url = process.env['NOCK_OWNER_DATABASE'];
  if (!url) throw new Error('NOCK_OWNER_DATABASE is not set; npm start sets it');
  const { db, pool } = connect(url, 2);
  try {
    await migrate(db as never, 'nock_app');
  } finally {
    await pool.end();
  }
}

main().catch((error: unknown) => {
  process.stderr.write(`The database could not be prepared: ${error instanceof Error ? error.message : String(error)}\n`);
  process.exit(1);
});
