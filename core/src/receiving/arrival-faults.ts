import { shortDay, type IsoDay } from '../calendar';
import type { ItemCode } from '../ids';
import { compareDecimal, plus, type Quantity } from '../money';
import { checkSerials, type SerialWhere } from '../serials';
import { lotKey, type Arrival, type AwaitedLine, type ReceiptFacts, type ReceiptFault } from './receipt-facts';

/** What is wrong with what came, by line and field: lot and day of expiry, bin, serial numbers. */
export function arrivalFaults({ lines, lots, warehouse, bins, serials }: ReceiptFacts, arrivals: readonly Arrival[], today: IsoDay): ReceiptFault[] {
  const known = new Map(lots);
  const scanned = new Map<string, Map<string, SerialWhere>>();
  return arrivals.flatMap((arrival, at) => {
    const { line: id, quantity, damaged, bin = '' } = arrival;
    const line = lines.find((row) => row.id === id);
    const fault = (name: string, message: string): ReceiptFault => ({ field: `lines[${at}].${name}`, message });
    if (!line) return [fault('line', `there is no line ${id} on this purchase order`)];
    return [
      ...(!isSome(quantity) && damaged === undefined ? [fault('quantity', 'expected a good or a damaged quantity')] : []),
      ...lotFaults(line, arrival, known, today).map(([name, message]) => fault(name, message)),
      ...(bin !== '' && !bins.has(bin) ? [fault('bin', `there is no bin ${bin} at ${warehouse}`)] : []),
      ...serialFaults(line, arrival, mapOf(scanned, line.item, serials), today).map((message) => fault('serials', message)),
    ];
  });
}

/** The numbers of an item that are known, with those that this receipt has named before. */
function mapOf(scanned: Map<string, Map<string, SerialWhere>>, item: ItemCode, known: ReceiptFacts['serials']): Map<string, SerialWhere> {
  const own = scanned.get(item) ?? new Map(known.get(item));
  scanned.set(item, own);
  return own;
}

/** What is wrong with the serial numbers that are given. They are noted in `known`: none comes twice. */
function serialFaults(
  { item, tracks_serials }: AwaitedLine,
  { quantity, damaged, serials = '' }: Arrival,
  known: Map<string, SerialWhere>,
  today: IsoDay,
): readonly string[] {
  if (!tracks_serials) return serials.trim() === '' ? [] : [`${item} has no serial numbers`];
  if (isSome(quantity) && damaged !== undefined) return [`${item} has serial numbers: enter the damaged ones by themselves`];
  const checked = checkSerials(item, serials, plus(quantity, damaged ?? '0'), known, today);
  if (!checked.ok) return checked.messages;
  for (const serial of checked.serials) known.set(serial, { kind: 'receipt' });
  return [];
}

/** What is wrong with the lot that is given. Its day is noted in `known`: the next arrival of it has the same. */
function lotFaults(
  { item, tracks_lots, tracks_expiry }: AwaitedLine,
  { quantity, lot = '', expires }: Arrival,
  known: Map<string, IsoDay | null>,
  today: IsoDay,
): (readonly [name: string, message: string])[] {
  if (lot === '') return tracks_lots ? [['lot', `${item} is kept by lot: expected the lot on the label`]] : [];
  const key = lotKey(item, lot);
  const isKnown = known.has(key);
  const stands = known.get(key) ?? null;
  const last = expires ?? stands;
  known.set(key, last);
  const faults: (readonly [string, string])[] = [];
  if (tracks_expiry && expires === undefined && !isKnown) faults.push(['expires', `${item} expires: expected the day on the label`]);
  if (isKnown && expires !== undefined && stands !== expires)
    faults.push(['expires', `lot ${lot} of ${item} ${stands ? `expires ${stands}` : 'has no such day'}, got ${expires}`]);
  if (last !== null && last < today && isSome(quantity))
    faults.push(['expires', `lot ${lot} of ${item} expired ${shortDay(last, today)}: receive it as damaged, into quarantine, or correct the day`]);
  return faults;
}

function isSome(quantity: Quantity): boolean {
  return compareDecimal(quantity, '0') > 0;
}
