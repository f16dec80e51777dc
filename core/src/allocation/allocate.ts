import type { IsoDay } from '../calendar';
import type { ItemCode, WarehouseCode } from '../ids';
import type { Quantity } from '../money';
import { chooseBins } from './choose-bins';

/** Goods that may be sold, in one bin and of one lot, that no pick has yet. */
export interface FreePlace {
  readonly id: number;
  readonly item: ItemCode;
  readonly warehouse: WarehouseCode;
  readonly bin: string;
  /** Where the bin lies on the warehouse's walk: 1 is the first. */
  readonly walk: number;
  /** Empty: of no lot. */
  readonly lot: string;
  /** The last day it may be used; null: it keeps. */
  readonly expires: IsoDay | null;
  /** In stocking units. */
  readonly free: Quantity;
}

/** What is to be picked for a line. */
export interface PickWant {
  readonly key: number;
  readonly item: ItemCode;
  readonly warehouse: WarehouseCode;
  readonly quantity: Quantity;
  /** The day until which the goods must last; it is no earlier than today, so that nothing expired is taken. */
  readonly until: IsoDay;
  /** What the item is handled in beside its stocking unit, in stocking units: 24 for a tray of 24. */
  readonly units: readonly Quantity[];
  /** Chosen by hand. */
  readonly lot?: string | undefined;
  readonly bin?: string | undefined;
}

export interface Allocated {
  readonly key: number;
  readonly place: number;
  readonly quantity: Quantity;
}

export interface Allocation {
  /** In the sequence of the walk. */
  readonly taken: readonly Allocated[];
  /** What no place has for a line. */
  readonly short: readonly { readonly key: number; readonly quantity: Quantity }[];
}

/** Quantities have at most four decimals: they are counted in ten-thousandths, exactly. */
const SCALE = 10_000;

/**
 * Which bin and lot each line is picked from. Goods leave in the sequence of their last day; of goods that last equally long
 * `chooseBins` decides. Lines that somebody chose a lot or bin for come first. The others may come in any sequence: each takes the
 * goods that are of use to the fewest others, so that as much is covered as can be. Method: docs/shipping.md.
 */
export function allocate(wants: readonly PickWant[], places: readonly FreePlace[]): Allocation {
  const shelves = new Map<string, Shelf[]>();
  const all = places.map((place): Shelf => ({ place, left: Math.round(Number(place.free) * SCALE) }));
  for (const shelf of all) {
    const key = shelfKey(shelf.place);
    const own = shelves.get(key);
    if (own) own.push(shelf);
    else shelves.set(key, [shelf]);
  }
  for (const own of shelves.values()) own.sort((a, b) => compareLast(a.place.expires, b.place.expires));
  const sequence = [...wants].sort((a, b) => Number(isFree(a)) - Number(isFree(b)));
  const taken: { readonly shelf: Shelf; readonly key: number; readonly quantity: number }[] = [];
  const short: { readonly key: number; readonly quantity: Quantity }[] = [];
  for (const want of sequence) {
    const missing = takeFor(want, shelves.get(shelfKey(want)) ?? [], taken);
    if (missing > 0) short.push({ key: want.key, quantity: text(missing) });
  }
  taken.sort((a, b) => compareOnWalk(a.shelf.place, b.shelf.place) || a.key - b.key);
  return { taken: taken.map(({ shelf, key, quantity }) => ({ key, place: shelf.place.id, quantity: text(quantity) })), short };
}

interface Shelf {
  readonly place: FreePlace;
  left: number;
}

function shelfKey({ item, warehouse }: { readonly item: string; readonly warehouse: string }): string {
  return `${warehouse}/${item}`;
}

function isFree(want: PickWant): boolean {
  return want.lot === undefined && want.bin === undefined;
}

function text(quantity: number): Quantity {
  return String(quantity / SCALE);
}

/** Takes from shelves, sorted by their last day, what a line wants; gives what is missing. */
function takeFor(want: PickWant, shelves: readonly Shelf[], taken: { shelf: Shelf; key: number; quantity: number }[]): number {
  const fit = shelves.filter(
    ({ place, left }) =>
      left > 0 &&
      (place.expires === null || place.expires >= want.until) &&
      (want.lot === undefined || place.lot === want.lot) &&
      (want.bin === undefined || place.bin === want.bin),
  );
  let missing = Math.round(Number(want.quantity) * SCALE);
  for (let from = 0; from < fit.length && missing > 0;) {
    let to = from;
    while (to < fit.length && fit[to]!.place.expires === fit[from]!.place.expires) to++;
    const group = fit.slice(from, to);
    const held = group.reduce((sum, shelf) => sum + shelf.left, 0);
    const quantity = Math.min(missing, held);
    const parts = held === quantity ? group.map((shelf) => shelf.left) : chooseBins(binsOf(group), quantity, unitFor(want, quantity));
    group.forEach((shelf, at) => {
      const part = parts[at]!;
      if (part === 0) return;
      shelf.left -= part;
      taken.push({ shelf, key: want.key, quantity: part });
    });
    missing -= quantity;
    from = to;
  }
  return missing;
}

function binsOf(group: readonly Shelf[]) {
  return group.map(({ place, left }) => ({ walk: place.walk, holds: left }));
}

/** The largest unit that the quantity has a whole one of; 0 where it has none. */
function unitFor(want: PickWant, quantity: number): number {
  return want.units.map((unit) => Math.round(Number(unit) * SCALE)).reduce((most, unit) => (unit > most && unit <= quantity ? unit : most), 0);
}

/** The earliest last day first; what keeps comes last. */
function compareLast(a: IsoDay | null, b: IsoDay | null): number {
  if (a === b) return 0;
  if (a === null) return 1;
  return b === null || a < b ? -1 : 1;
}

/** The sequence in which somebody walks by places: by bin, then item and lot. */
export function compareOnWalk(a: Pick<FreePlace, 'walk' | 'bin' | 'item' | 'lot'>, b: Pick<FreePlace, 'walk' | 'bin' | 'item' | 'lot'>): number {
  return a.walk - b.walk || compareText(a.bin, b.bin) || compareText(a.item, b.item) || compareText(a.lot, b.lot);
}

function compareText(a: string, b: string): number {
  return a < b ? -1 : a > b ? 1 : 0;
}
