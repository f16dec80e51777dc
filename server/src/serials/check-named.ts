import type { IsoDay } from '@nockwright/core/calendar';
import type { ItemCode } from '@nockwright/core/ids';
import type { Quantity } from '@nockwright/core/money';
import { checkSerials, readSerials, type SerialWhere } from '@nockwright/core/serials';
import type { Trx } from '../database';
import { Refusal } from '../http/refusal';
import { loadWheres } from './load-serials';

/** Pieces that come in with their serial numbers, as they were scanned or typed. */
export interface NamedPieces {
  /** Where they stand in the request: `body.lines[2].serials`. */
  readonly field: string;
  readonly item: ItemCode;
  readonly quantity: Quantity;
  readonly serials: string;
  /** Pieces of this item have serial numbers. */
  readonly tracked: boolean;
}

/**
 * The serial numbers of pieces that come in, row by row: as many as pieces, each once, none that is somewhere else; `from`: the warehouse they
 * come from, where they may still be known to be. Refused by field. The pools must be locked.
 */
export async function checkNamed(trx: Trx, rows: readonly NamedPieces[], today: IsoDay, from?: string): Promise<readonly (readonly string[])[]> {
  const read = rows.map((row) => readSerials(row.serials, today));
  const wheres = await loadWheres(
    trx,
    rows.map((row) => row.item),
    read.flatMap((result) => (result.ok ? result.serials : [])),
  );
  const named = new Map<string, Map<string, SerialWhere>>();
  const faults: { field: string; message: string }[] = [];
  const found = rows.map(({ field, item, quantity, serials, tracked }) => {
    if (!tracked) {
      if (serials.trim() !== '') faults.push({ field, message: `${item} has no serial numbers` });
      return [];
    }
    const known = named.get(item) ?? new Map([...(wheres.get(item) ?? [])].filter(([, where]) => !(where.kind === 'place' && where.warehouse === from)));
    named.set(item, known);
    const checked = checkSerials(item, serials, quantity, known, today);
    if (!checked.ok) {
      faults.push(...checked.messages.map((message) => ({ field, message })));
      return [];
    }
    for (const serial of checked.serials) known.set(serial, { kind: 'receipt' });
    return checked.serials;
  });
  if (faults.length > 0) throw new Refusal('invalid', faults.map(({ field, message }) => `${field}: ${message}`).join('; '), faults);
  return found;
}
