/** Goods to be packed, all pieces of a line alike. Sizes in centimetres, weights in kilograms, quantities in stocking units. */
export interface PackGoods {
  readonly key: number;
  readonly quantity: number;
  /** Of one stocking unit. */
  readonly weight: number;
  readonly size: Size | null;
  /** What may not lie with goods of another class: food with chemicals. Empty: goes with everything. */
  readonly apart: string;
}

export interface Size {
  readonly length: number;
  readonly width: number;
  readonly height: number;
}

/** A kind of carton that the warehouse has; its size is what fits inside. */
export interface CartonKind {
  readonly code: string;
  readonly size: Size;
  readonly tare: number;
  /** The most that it carries, its own weight not counted. */
  readonly most: number;
}

export interface ProposedCarton {
  readonly kind: string;
  readonly contents: readonly { readonly key: number; readonly quantity: number }[];
  /** With the carton, in kilograms. */
  readonly weight: number;
}

export interface CartonPlan {
  readonly cartons: readonly ProposedCarton[];
  /** What fits no carton, or is as large as one: it goes by itself with a label of its own, piece by piece. */
  readonly alone: readonly { readonly key: number; readonly quantity: number }[];
}

/** So much of a carton is filled: the rest is padding. Common practice, no source. */
export const FILL = 0.85;

interface Open {
  readonly kind: CartonKind;
  readonly contents: Map<number, number>;
  apart: string;
  volume: number;
  weight: number;
  longest: number;
}

/**
 * Cartons for goods: no carton is filled above its volume, weight or longest side, and goods that may not lie together do not.
 * First fit decreasing, by the share of a carton that a piece takes of what is scarce; then each carton becomes the smallest
 * kind that holds it. Where only volume counts it takes at most 11/9 × optimum + 6/9 cartons. Source of the bound: G. Dósa, The
 * tight bound of first fit decreasing bin-packing algorithm, 2007.
 */
export function proposeCartons(goods: readonly PackGoods[], kinds: readonly CartonKind[]): CartonPlan {
  const largest = [...kinds].sort((a, b) => volumeOf(b.size) - volumeOf(a.size))[0];
  const fits = (row: PackGoods) => largest !== undefined && kinds.some((kind) => fitsOne(row, kind));
  const alone = goods.filter((row) => !fits(row)).map(({ key, quantity }) => ({ key, quantity }));
  const packed = goods.filter(fits);
  if (!largest || packed.length === 0) return { cartons: [], alone };
  const plans = [volumeShare, weightShare, (row: PackGoods, kind: CartonKind) => Math.max(volumeShare(row, kind), weightShare(row, kind))].map((share) =>
    firstFit(
      [...packed].sort((a, b) => share(b, largest) - share(a, largest) || a.key - b.key),
      kinds,
    ),
  );
  const best = plans.reduce((found, plan) => (plan.length < found.length ? plan : found));
  return { cartons: best.map((open) => shrunk(open, kinds)), alone };
}

function firstFit(goods: readonly PackGoods[], kinds: readonly CartonKind[]): Open[] {
  const open: Open[] = [];
  const bySize = [...kinds].sort((a, b) => volumeOf(b.size) - volumeOf(a.size));
  for (const row of goods) {
    let left = row.quantity;
    for (const carton of open) {
      if (left <= 0) break;
      left -= put(row, left, carton);
    }
    const kind = bySize.find((each) => fitsOne(row, each))!;
    while (left > 0) {
      const carton: Open = { kind, contents: new Map(), apart: row.apart, volume: 0, weight: 0, longest: 0 };
      open.push(carton);
      left -= put(row, left, carton);
    }
  }
  return open;
}

/** Puts as much of a line into a carton as it takes; gives how much. Pieces stay whole. */
function put(row: PackGoods, wanted: number, carton: Open): number {
  if (!mayLieWith(row.apart, carton) || longestOf(row.size) > longestOf(carton.kind.size)) return 0;
  const [volume, weight] = [volumeOf(row.size), row.weight];
  const room = Math.min(
    volume > 0 ? (volumeOf(carton.kind.size) * FILL - carton.volume) / volume : Infinity,
    weight > 0 ? (carton.kind.most - carton.weight) / weight : Infinity,
  );
  // A little more than is left, so that what fits exactly fits in floating point too.
  const taken = wanted < 1 ? (room + 1e-9 >= wanted ? wanted : 0) : Math.min(wanted, Math.floor(room + 1e-9));
  if (taken <= 0) return 0;
  carton.contents.set(row.key, (carton.contents.get(row.key) ?? 0) + taken);
  carton.volume += volume * taken;
  carton.weight += weight * taken;
  carton.longest = Math.max(carton.longest, longestOf(row.size));
  carton.apart ||= row.apart;
  return taken;
}

function mayLieWith(apart: string, carton: Open): boolean {
  return apart === '' || carton.apart === '' || carton.apart === apart;
}

function shrunk(open: Open, kinds: readonly CartonKind[]): ProposedCarton {
  const kind = [...kinds]
    .sort((a, b) => volumeOf(a.size) - volumeOf(b.size))
    .find((each) => volumeOf(each.size) * FILL + 1e-9 >= open.volume && each.most + 1e-9 >= open.weight && longestOf(each.size) >= open.longest)!;
  const contents = [...open.contents].map(([key, quantity]) => ({ key, quantity }));
  return { kind: kind.code, contents, weight: open.weight + kind.tare };
}

function fitsOne(row: PackGoods, kind: CartonKind): boolean {
  const piece = Math.min(1, row.quantity);
  if (row.weight * piece > kind.most || volumeOf(row.size) * piece > volumeOf(kind.size) * FILL) return false;
  if (!row.size) return true;
  const [own, inner] = [sides(row.size), sides(kind.size)];
  return own.every((side, at) => side <= inner[at]!);
}

function sides({ length, width, height }: Size): number[] {
  return [length, width, height].sort((a, b) => b - a);
}

function longestOf(size: Size | null): number {
  return size ? sides(size)[0]! : 0;
}

/** In cubic centimetres; 0 where nobody has measured it. */
function volumeOf(size: Size | null): number {
  return size ? size.length * size.width * size.height : 0;
}

function volumeShare(row: PackGoods, kind: CartonKind): number {
  return volumeOf(row.size) / (volumeOf(kind.size) * FILL);
}

function weightShare(row: PackGoods, kind: CartonKind): number {
  return row.weight / kind.most;
}
