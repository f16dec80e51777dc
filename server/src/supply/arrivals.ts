import type { Arrival } from '@nockwright/contract/supply';
import { shortDay } from '@nockwright/core/calendar';
import { compareDecimal, sum } from '@nockwright/core/money';
import { hasBin } from '../items';
import type { Trx } from '../database';
import type { CommandContext } from '../http/context';
import { Refusal } from '../http/refusal';
import type { PurchaseLineRecord } from './load-purchase';

/** What came of purchase lines by line: how much is fit to be sold. */
export function sumByLine(arrivals: readonly Arrival[]): { line: number; quantity: string }[] {
  return [...new Set(arrivals.map((row) => row.line))].map((line) => ({
    line,
    quantity: sum(arrivals.filter((row) => row.line === line).map((row) => row.quantity)),
  }));
}

/** How much of a line came damaged; nothing where nothing did. */
export function damagedOf(arrivals: readonly Arrival[], line: number): string[] {
  const damaged = sum(arrivals.filter((row) => row.line === line).map((row) => row.damaged ?? '0'));
  return compareDecimal(damaged, '0') > 0 ? [damaged] : [];
}

/**
 * Checks that what came has what its item needs: a lot where lots are kept apart, the day it expires, a bin that is there.
 * A lot has one day; what has expired comes into quarantine or not at all. Refused with the line and the field.
 */
export async function checkArrivals(
  trx: Trx,
  warehouse: string,
  lines: readonly Pick<PurchaseLineRecord, 'id' | 'item' | 'tracks_lots' | 'tracks_expiry'>[],
  arrivals: readonly Arrival[],
  today: string,
): Promise<readonly Arrival[]> {
  const errors: { field: string; message: string }[] = [];
  const days = new Map<string, string | null>();
  for (const [at, { line: id, quantity, damaged, lot = '', expires, bin = '' }] of arrivals.entries()) {
    const field = (name: string) => `body.lines[${at}].${name}`;
    const line = lines.find((row) => row.id === id);
    if (!line) {
      errors.push({ field: field('line'), message: `there is no line ${id} on this purchase order` });
      continue;
    }
    if (compareDecimal(quantity, '0') === 0 && damaged === undefined)
      errors.push({ field: field('quantity'), message: 'expected what came, sound or damaged' });
    if (line.tracks_lots && lot === '') errors.push({ field: field('lot'), message: `${line.item} is kept by lot: expected the lot on the label` });
    if (lot !== '') {
      const key = `${line.item}/${lot}`;
      const known = days.has(key) ? { expires: days.get(key)! } : await knownLot(trx, line.item, lot);
      if (line.tracks_expiry && expires === undefined && !known)
        errors.push({ field: field('expires'), message: `${line.item} expires: expected the day on the label` });
      if (known && expires !== undefined && known.expires !== expires)
        errors.push({
          field: field('expires'),
          message: `lot ${lot} of ${line.item} ${known.expires ? `expires ${known.expires}` : 'has no such day'}, got ${expires}`,
        });
      const last = expires ?? known?.expires ?? null;
      if (last !== null && last < today && compareDecimal(quantity, '0') > 0)
        errors.push({
          field: field('expires'),
          message: `lot ${lot} of ${line.item} expired ${shortDay(last, today)}: receive it as damaged, into quarantine, or correct the day`,
        });
      days.set(key, last);
    }
    if (bin !== '' && !(await hasBin(trx, warehouse, bin))) errors.push({ field: field('bin'), message: `there is no bin ${bin} at ${warehouse}` });
  }
  if (errors.length > 0) throw new Refusal('invalid', errors.map(({ field, message }) => `${field}: ${message}`).join('; '), errors);
  return arrivals;
}

/** Puts what came into its bins; what is damaged into quarantine. */
export async function bookGoods(context: CommandContext, purchaseNumber: string, line: PurchaseLineRecord, arrivals: readonly Arrival[]): Promise<void> {
  const { trx, now } = context;
  const common = { at: now.instant, item: line.item, warehouse: line.warehouse!, kind: 'receipt' as const, reference: `${purchaseNumber}/${line.line_no}` };
  for (const { quantity, damaged, lot = '', expires, bin = '' } of arrivals) {
    if (lot !== '')
      await trx
        .insertInto('item_lot')
        .values({ item: line.item, lot, expires: expires ?? null })
        .onConflict((conflict) => conflict.doNothing())
        .execute();
    const goods = { ...common, lot, ...(bin === '' ? {} : { bin }) };
    if (compareDecimal(quantity, '0') > 0)
      await trx
        .insertInto('stock_movement')
        .values({ ...goods, quantity })
        .execute();
    if (damaged !== undefined) {
      await trx
        .insertInto('stock_movement')
        .values({ ...goods, quantity: damaged, status: 'quarantine', reason: 'damaged' })
        .execute();
      await trx
        .updateTable('purchase_line')
        .set(({ eb }) => ({ damaged: eb('damaged', '+', damaged) }))
        .where('id', '=', line.id)
        .execute();
    }
  }
}

async function knownLot(trx: Trx, item: string, lot: string): Promise<{ expires: string | null } | undefined> {
  return trx.selectFrom('item_lot').select('expires').where('item', '=', item).where('lot', '=', lot).executeTakeFirst();
}
