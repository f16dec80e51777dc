import { parseDay } from '../calendar';
import type { Read } from '../exchange';
import { readTable, type Column } from '../formats';
import type { BankEntry, BankStatement } from './bank-entry';

const COLUMNS = [
  { key: 'day', names: ['day', 'date', 'booking date', 'value date', 'booked'] },
  { key: 'amount', names: ['amount', 'credit', 'value', 'sum'] },
  { key: 'party', names: ['party', 'payer', 'name', 'counterparty', 'payee', 'from'] },
  { key: 'text', names: ['text', 'purpose', 'details', 'description', 'remittance', 'message'] },
  { key: 'reference', names: ['reference', 'ref', 'creditor reference'] },
  { key: 'partyAccount', names: ['iban', 'account', 'payer account', 'counterparty account'] },
  { key: 'key', names: ['id', 'entry', 'transaction', 'bank reference'] },
] as const satisfies readonly Column<string>[];

/**
 * Reads the movements of a bank account from comma-separated values (RFC 4180): a heading names the columns, in any sequence; day as `2027-03-09` or
 * `09.03.2027`, amount with point or comma, below 0 what went out. Gives why it could not be read, by line and column.
 */
export function readBankCsv(text: string, currency: string): Read<BankStatement> {
  const { headed, columns, rows } = readTable(text, COLUMNS);
  if (!headed || !columns.includes('day') || !columns.includes('amount'))
    return { ok: false, faults: ['line 1: expected a heading with at least day and amount'] };
  const faults: string[] = [];
  const seen = new Map<string, number>();
  const entries = rows.map(({ line, cells }): BankEntry => {
    const day = isoOf(cells.day ?? '');
    const amount = plainAmount(cells.amount ?? '');
    if (parseDay(day) === null) faults.push(`line ${line}: day: expected a day as 2027-03-09, got ${cells.day ?? 'nothing'}`);
    if (amount === null) faults.push(`line ${line}: amount: expected an amount other than 0, got ${cells.amount ?? 'nothing'}`);
    const { party = '', text: purpose = '', reference = '', partyAccount = '', key = '' } = cells;
    const what = [day, amount, partyAccount || party, reference, purpose].join('|');
    const count = (seen.get(what) ?? 0) + 1;
    seen.set(what, count);
    return {
      key: key || `${what}|${count}`,
      day,
      amount: (amount ?? '0').replace('-', ''),
      direction: amount?.startsWith('-') ? 'out' : 'in',
      party,
      partyAccount: partyAccount.replace(/\s/g, '').toUpperCase(),
      reference,
      text: purpose,
    };
  });
  if (entries.length === 0) faults.push('the file has no movement');
  return faults.length > 0 ? { ok: false, faults } : { ok: true, document: { account: '', currency, entries } };
}

/** `09.03.2027` and `09/03/2027` with the day first: common practice in Europe, no source. */
function isoOf(text: string): string {
  const parts = /^(\d{1,2})[./](\d{1,2})[./](\d{4})$/.exec(text);
  return parts ? `${parts[3]}-${parts[2]!.padStart(2, '0')}-${parts[1]!.padStart(2, '0')}` : text;
}

/** `1.234,50`, `1,234.50` and `1234.5` as decimal text; null: no amount, or 0. The last point or comma before at most two digits is the decimal one. */
function plainAmount(text: string): string | null {
  const plain = text.replace(/[\s']/g, '').replace(/^\+/, '');
  if (!/^-?\d[\d.,]*$/.test(plain)) return null;
  const cents = /[.,](\d{1,2})$/.exec(plain);
  const whole = (cents ? plain.slice(0, -cents[0].length) : plain).replace(/[.,]/g, '');
  const amount = cents ? `${whole}.${cents[1]}` : whole;
  return Number(amount) === 0 ? null : amount;
}
