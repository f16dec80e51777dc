import type { IsoDay } from '../calendar';
import type { ItemCode, LineId } from '../ids';
import { compareDecimal, least, minus, plus, sum, times, type Quantity } from '../money';
import type { Scan } from '../scans';

/** A part of a shipment: goods of one lot from one bin. Quantities in stocking units. */
export interface PickPart {
  readonly id: number;
  readonly line: LineId;
  readonly lineNo: number;
  readonly item: ItemCode;
  readonly bin: string;
  readonly lot: string;
  readonly expires: IsoDay | null;
  /** The day until which it must last where it goes. */
  readonly until: IsoDay;
  readonly quantity: Quantity;
  /** What is in a tote or carton already: on the walk what is picked, at the bench what is packed. */
  readonly done: Quantity;
  /** How many have their serial number scanned; null: the item has none. */
  readonly numbered: number | null;
}

/** An item that a label may name. */
export interface ScannedItem {
  readonly item: ItemCode;
  readonly gtin: string | null;
  readonly tracksLots: boolean;
  readonly tracksSerials: boolean;
  /** What it is handled in beside its stocking unit, with how many stocking units that is. */
  readonly units: readonly { readonly unit: string; readonly gtin: string | null; readonly size: Quantity }[];
}

/** What is known when something is scanned for a shipment. */
export interface ScanFacts {
  readonly parts: readonly PickPart[];
  /** Items of the shipment, and the one that the label names, where it is another. */
  readonly items: readonly ScannedItem[];
  /** Where serial numbers of the shipment's items are that are known: in words. What is free at the warehouse, and what is missing, is not among them. */
  readonly serials: ReadonlyMap<string, string>;
  /** The last day of the lot that the label names, where it is known and no part of the shipment has it. */
  readonly lotExpires: IsoDay | null;
  readonly today: IsoDay;
}

/** Why a scan is refused. */
export type ScanRefusal =
  | { readonly why: 'unknown'; readonly text: string }
  | { readonly why: 'not_here'; readonly item: ItemCode }
  | { readonly why: 'lot_missing'; readonly item: ItemCode; readonly lots: readonly string[] }
  | { readonly why: 'wrong_lot'; readonly item: ItemCode; readonly lot: string; readonly lots: readonly string[] }
  | { readonly why: 'expired'; readonly item: ItemCode; readonly lot: string; readonly expires: IsoDay; readonly until: IsoDay }
  | { readonly why: 'too_many'; readonly item: ItemCode; readonly scanned: Quantity; readonly left: Quantity }
  | { readonly why: 'serial_missing'; readonly item: ItemCode }
  | { readonly why: 'one_by_one'; readonly item: ItemCode }
  | { readonly why: 'elsewhere'; readonly item: ItemCode; readonly serial: string; readonly where: string };

export type ScanDecision =
  | {
      readonly ok: true;
      readonly item: ItemCode;
      readonly quantity: Quantity;
      readonly parts: readonly { readonly part: PickPart; readonly quantity: Quantity }[];
    }
  | { readonly ok: false; readonly refusal: ScanRefusal };

/**
 * What a scan puts into a tote or carton: parts of the shipment, by their sequence, with how much of each. `count` is how many
 * were scanned at once, where the label does not say. Wrong goods are refused, by what is wrong.
 */
export function decideScan(scan: Scan, count: Quantity, facts: ScanFacts): ScanDecision {
  const named = namedBy(scan, facts.items);
  if (!named) return refuse({ why: 'unknown', text: scan.plain ?? scan.gtin ?? scan.sscc ?? scan.lot ?? '' });
  const { known, size } = named;
  const { item } = known;
  const own = facts.parts.filter((part) => part.item === item);
  if (own.length === 0) return refuse({ why: 'not_here', item });
  const lots = [...new Set(own.map((part) => part.lot))];
  if (known.tracksLots && scan.lot === undefined) return refuse({ why: 'lot_missing', item, lots });
  const fit = scan.lot === undefined ? own : own.filter((part) => part.lot === scan.lot);
  const spoilt = spoiltBy(scan, fit[0] ?? own[0]!, facts);
  if (known.tracksLots && spoilt) return refuse({ why: 'expired', item, lot: scan.lot!, ...spoilt });
  if (known.tracksLots && fit.length === 0) return refuse({ why: 'wrong_lot', item, lot: scan.lot!, lots });
  const quantity = times(size, scan.count === undefined ? count : String(scan.count));
  if (known.tracksSerials) {
    if (scan.serial === undefined) return refuse({ why: 'serial_missing', item });
    const where = facts.serials.get(scan.serial);
    if (where !== undefined) return refuse({ why: 'elsewhere', item, serial: scan.serial, where });
    if (compareDecimal(quantity, '1') !== 0) return refuse({ why: 'one_by_one', item });
  }
  const left = sum(fit.map((part) => minus(part.quantity, part.done)));
  if (compareDecimal(quantity, left) > 0) return refuse({ why: 'too_many', item, scanned: quantity, left });
  return { ok: true, item, quantity, parts: takeInTurn(fit, quantity) };
}

/** The item that a label or a typed code names, and how many stocking units one scan is. */
function namedBy(scan: Scan, items: readonly ScannedItem[]): { readonly known: ScannedItem; readonly size: Quantity } | null {
  for (const known of items) {
    if (scan.gtin !== undefined) {
      if (known.gtin === scan.gtin) return { known, size: '1' };
      const unit = known.units.find((row) => row.gtin === scan.gtin);
      if (unit) return { known, size: unit.size };
    } else if (scan.plain !== undefined && scan.plain.toUpperCase() === known.item.toUpperCase()) return { known, size: '1' };
  }
  return null;
}

/** The last day of the lot that was scanned, where that is too early. */
function spoiltBy(scan: Scan, part: PickPart, facts: ScanFacts): { readonly expires: IsoDay; readonly until: IsoDay } | null {
  const expires = scan.expires ?? (part.lot === scan.lot ? part.expires : facts.lotExpires);
  return expires !== null && expires < part.until ? { expires, until: part.until } : null;
}

function takeInTurn(parts: readonly PickPart[], quantity: Quantity) {
  let left = quantity;
  return parts.flatMap((part) => {
    const taken = least(left, minus(part.quantity, part.done));
    left = minus(left, taken);
    return compareDecimal(taken, '0') > 0 ? [{ part, quantity: taken }] : [];
  });
}

function refuse(refusal: ScanRefusal): ScanDecision {
  return { ok: false, refusal };
}

/** What of parts is not in a tote or carton yet. */
export function stillMissing(parts: readonly PickPart[]): Quantity {
  return parts.reduce((missing, part) => plus(missing, minus(part.quantity, part.done)), '0');
}
