import type { Now } from '../clock';
import { connect } from '../database';
import { loadBook } from '../promise';
import type { Task } from '../work';

/** The whole live book as JSON, read and written beside the thread that answers: of a large desk it is many megabytes. */
export const orderBookTask: Task<{ readonly url: string; readonly now: Now }, string> = {
  name: 'orderBook',
  run: async ({ url, now }) => {
    const { db, pool } = connect(url, 1);
    try {
      const { book } = await db
        .transaction()
        .setIsolationLevel('repeatable read')
        .setAccessMode('read only')
        .execute((trx) => loadBook(trx, now));
      return JSON.stringify(book);
    } finally {
      await pool.end();
    }
  },
};
