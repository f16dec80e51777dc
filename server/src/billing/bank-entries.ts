import type { BankEntryView, bankRoutes } from '@nockwright/contract/billing';
import type { BodyOf, QueryOf } from '@nockwright/contract/shape';
import type { PayerProposal } from '@nockwright/core/bank';
import type { CustomerId } from '@nockwright/core/ids';
import { roundMoney } from '@nockwright/core/money';
import { sql } from 'kysely';
import { anyOf, escapeLike, searchWords, type Db, type Trx } from '../database';
import { recordEvent } from '../events';
import type { CommandContext } from '../http/context';
import { notFound, Refusal } from '../http/refusal';
import { takeLocks } from '../locks';
import { loadEntries, loadPayers, proposalsOf, type StoredEntry } from './bank-proposals';
import { checkPaid, storePaid } from './payments';
import { lockPayer } from './lock-payer';

const PAGE = 60;
/** Waiting movements that are looked at for sure ones, at most. */
const MOST_WAITING = 5000;
const MOST_BOOKED = 100;

type Row = Omit<BankEntryView, 'proposals'>;

/** Movements, newest first; those that wait with whose they may be. */
export async function listBankEntries(db: Db, { state = 'waiting', q, before }: QueryOf<typeof bankRoutes.listBankEntries>) {
  const words = searchWords(q).map((word) => {
    const like = `%${escapeLike(word)}%`;
    return sql`and (lower(b.party) like ${like} or lower(b.text) like ${like} or lower(b.reference) like ${like} or b.amount::text like ${like})`;
  });
  const { rows } = await sql<Row>`
    select b.id, b.day::text as day, b.amount::text as amount, b.direction, b.party, b.party_account as "partyAccount", b.reference, b.text, f.name as file, b.state, b.why,
      (select json_build_object('id', c.id, 'name', c.name) from payment p join customer c on c.id = p.customer_id where p.id = b.payment_id) as customer
    from bank_entry b join bank_file f on f.id = b.file_id
    where ${state === 'all' ? sql`true` : sql`b.state = ${state}`} ${before === undefined ? sql`` : sql`and b.id < ${before}`} ${sql.join(words, sql` `)}
    order by b.id desc limit ${PAGE + 1}`.execute(db);
  const { currency } = await db.selectFrom('firm').select('currency').executeTakeFirstOrThrow();
  const money = (value: string) => roundMoney(value, currency);
  const waiting = await loadEntries(db, sql`b.state = 'waiting'`, MOST_WAITING);
  const { index, names, invoices } = await loadPayers(db);
  const proposals = new Map(waiting.map((entry) => [entry.id, proposalsOf(entry, index)]));
  const shown = ({ customer, settled, onAccount, why, sure }: PayerProposal) => ({
    customer,
    name: names.get(customer)!,
    settled: settled.map((row) => {
      const { number, open } = invoices.get(row.invoice)!;
      return { invoice: row.invoice, number, open: money(open), amount: money(row.amount), discount: money(row.discount) };
    }),
    onAccount: money(onAccount),
    why: [...why],
    sure,
  });
  return {
    rows: rows.slice(0, PAGE).map((row) => ({ ...row, amount: money(row.amount), proposals: (proposals.get(row.id) ?? []).map(shown) })),
    more: rows.length > PAGE,
    waiting: waiting.length,
    sure: [...proposals.values()].filter(([first]) => first?.sure).length,
    currency,
  };
}

/** Records a movement as the payment of a customer, to the invoices that were said. */
export async function bookBankEntry(
  context: CommandContext,
  id: number,
  { customer, settled }: BodyOf<typeof bankRoutes.bookBankEntry>,
): Promise<{ waiting: number }> {
  const { trx } = context;
  const known = await trx.selectFrom('customer').select('name').where('id', '=', customer).executeTakeFirst();
  if (!known) throw notFound(`customer ${customer}`);
  await lockPayer(trx, customer);
  const entry = await lockWaiting(trx, id);
  if (entry.direction === 'out') throw new Refusal('conflict', 'This went out: it is no payment of a customer. Set it aside.');
  await checkPaid(trx, customer, entry, settled);
  const [payment] = await storePayments(context, [{ entry, customer, settled }]);
  await recordEvent(context, {
    kind: 'bank.booked',
    facts: { booked: [{ customer: known.name, amount: entry.amount }], sure: false },
    subjects: [{ kind: 'customer', key: customer }, ...settled.map((row) => ({ kind: 'invoice' as const, key: row.invoice }))],
    after: { payment },
  });
  return { waiting: await countWaiting(trx) };
}

/** Records movements that are sure, one for each customer; says how many are left. */
export async function bookSureEntries(context: CommandContext): Promise<{ booked: number; left: number }> {
  const { trx } = context;
  const seen = sureOnes(await loadEntries(trx, sql`b.state = 'waiting' and b.direction = 'in'`, MOST_WAITING), (await loadPayers(trx)).index);
  if (seen.length === 0) return { booked: 0, left: 0 };
  await takeLocks(trx, { customers: seen.slice(0, MOST_BOOKED).map((row) => row.customer) });
  // As it stands now that nobody else settles anything of theirs.
  const ids = seen.slice(0, MOST_BOOKED).map((row) => row.entry.id);
  await sql`select from bank_entry where ${anyOf('id', ids)} order by id for update`.execute(trx);
  const { index, names } = await loadPayers(trx);
  const sure = sureOnes(await loadEntries(trx, sql`b.state = 'waiting' and ${anyOf('b.id', ids)}`, MOST_BOOKED), index);
  if (sure.length === 0) return { booked: 0, left: 0 };
  await storePayments(context, sure);
  await recordEvent(context, {
    kind: 'bank.booked',
    facts: { booked: sure.map((row) => ({ customer: names.get(row.customer)!, amount: row.entry.amount })), sure: true },
    subjects: sure.flatMap((row) => [
      { kind: 'customer' as const, key: row.customer },
      ...row.settled.map((one) => ({ kind: 'invoice' as const, key: one.invoice })),
    ]),
  });
  const left = sureOnes(await loadEntries(trx, sql`b.state = 'waiting' and b.direction = 'in'`, MOST_WAITING), (await loadPayers(trx)).index);
  return { booked: sure.length, left: left.length };
}

interface Booked {
  readonly entry: StoredEntry;
  readonly customer: CustomerId;
  readonly settled: PayerProposal['settled'];
}

/** What is sure, the oldest first, one for each customer: what the next goes to hangs on it. */
function sureOnes(entries: readonly StoredEntry[], index: Parameters<typeof proposalsOf>[1]): readonly Booked[] {
  const byCustomer = new Map<CustomerId, Booked>();
  for (const entry of entries) {
    const [first] = proposalsOf(entry, index);
    if (first?.sure && !byCustomer.has(first.customer)) byCustomer.set(first.customer, { entry, customer: first.customer, settled: first.settled });
  }
  return [...byCustomer.values()];
}

/** Writes payments of movements, and from which account each customer paid. Customers and movements must be locked. */
async function storePayments(context: CommandContext, booked: readonly Booked[]): Promise<number[]> {
  const { trx, now, user } = context;
  const payments: number[] = [];
  for (const { entry, customer, settled } of booked)
    payments.push(
      await storePaid(context, customer, {
        day: entry.day,
        method: 'bank',
        amount: entry.amount,
        reference: (entry.reference || entry.text || entry.party).slice(0, 140),
        settled: [...settled],
      }),
    );
  await sql`update bank_entry b set state = 'booked', payment_id = k.payment, why = '', done_at = ${now.instant}::timestamptz, done_by = ${user.id}::int
    from unnest(${booked.map((row) => row.entry.id)}::int[], ${payments}::int[]) k(id, payment) where b.id = k.id`.execute(trx);
  const accounts = new Map(booked.filter((row) => row.entry.partyAccount !== '').map((row) => [row.entry.partyAccount, row.customer]));
  if (accounts.size > 0)
    await sql`insert into customer_account (account, customer_id) select * from unnest(${[...accounts.keys()]}::text[], ${[...accounts.values()]}::int[])
      on conflict (account) do update set customer_id = excluded.customer_id`.execute(trx);
  return payments;
}

async function lockWaiting(trx: Trx, id: number): Promise<StoredEntry> {
  const row = await trx.selectFrom('bank_entry').select(['state']).where('id', '=', id).forUpdate().executeTakeFirst();
  if (!row) throw notFound(`movement ${id}`);
  if (row.state !== 'waiting')
    throw new Refusal('conflict', row.state === 'booked' ? 'This movement is booked already.' : 'This movement is set aside: take it up again first.');
  return (await loadEntries(trx, sql`b.id = ${id}`, 1))[0]!;
}

export async function setBankEntryAside(context: CommandContext, id: number, why: string): Promise<{ waiting: number }> {
  const { trx, now, user } = context;
  const entry = await lockWaiting(trx, id);
  await trx.updateTable('bank_entry').set({ state: 'set_aside', why, done_at: now.instant, done_by: user.id }).where('id', '=', id).execute();
  await recordEvent(context, {
    kind: 'bank.set_aside',
    facts: { amount: entry.amount, party: entry.party, aside: true },
    why,
    subjects: [{ kind: 'firm', key: 'firm' }],
  });
  return { waiting: await countWaiting(trx) };
}

export async function takeBankEntryUp(context: CommandContext, id: number): Promise<{ waiting: number }> {
  const { trx } = context;
  const row = await trx.selectFrom('bank_entry').select(['state', 'amount', 'party']).where('id', '=', id).forUpdate().executeTakeFirst();
  if (!row) throw notFound(`movement ${id}`);
  if (row.state !== 'set_aside') throw new Refusal('conflict', row.state === 'booked' ? 'This movement is booked already.' : 'This movement waits already.');
  await trx.updateTable('bank_entry').set({ state: 'waiting', why: '', done_at: null, done_by: null }).where('id', '=', id).execute();
  await recordEvent(context, {
    kind: 'bank.set_aside',
    facts: { amount: row.amount, party: row.party, aside: false },
    subjects: [{ kind: 'firm', key: 'firm' }],
  });
  return { waiting: await countWaiting(trx) };
}

async function countWaiting(trx: Trx): Promise<number> {
  const { rows } = await sql<{ waiting: number }>`select count(*)::int as waiting from bank_entry where state = 'waiting'`.execute(trx);
  return rows[0]!.waiting;
}
