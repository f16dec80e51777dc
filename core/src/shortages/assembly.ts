import type { ItemCode } from '../ids';
import { type Quantity, plus, times, type Decimal } from '../money';

/** How an item is put together. */
export interface Recipe {
  /** Working days it takes, once the components are there. */
  readonly days: number;
  readonly components: readonly { readonly item: ItemCode; readonly quantity: Quantity }[];
}

/** An assembly with where each of its components comes from. */
export interface AssemblyStep {
  readonly item: ItemCode;
  /** Whole stocking units. */
  readonly quantity: number;
  /** Working days until it is done, those of what is made for it first included. */
  readonly days: number;
  readonly components: readonly {
    readonly item: ItemCode;
    readonly perUnit: Decimal;
    readonly fromShelf: Decimal;
    /** What the shelf does not give and is assembled first. */
    readonly made: AssemblyStep | null;
  }[];
}

/** What is free on the shelf by item, in stocking units. */
export type Shelf = ReadonlyMap<string, number>;

const SCALE = 10_000;

/**
 * How `quantity` of an item is put together from what is free now: components are taken from the shelf in file order,
 * depth first, what is missing is assembled where it can be. Null where it cannot. Loops are broken: an item is never
 * made for itself.
 */
export function assemblySteps(item: ItemCode, quantity: number, recipes: ReadonlyMap<string, Recipe>, shelf: Shelf): AssemblyStep | null {
  const left = new Map([...shelf].map(([key, value]) => [key, Math.floor(value * SCALE + 1e-6)]));
  const make = (what: string, count: number, within: readonly string[]): AssemblyStep | null => {
    const recipe = recipes.get(what);
    if (!recipe || recipe.components.length === 0 || within.includes(what)) return null;
    let before = 0;
    const components: AssemblyStep['components'][number][] = [];
    for (const { item: component, quantity: perUnit } of recipe.components) {
      const needed = Math.round(Number(perUnit) * SCALE) * count;
      const free = left.get(component) ?? 0;
      let made: AssemblyStep | null = null;
      if (free < needed) {
        made = make(component, Math.ceil((needed - free) / SCALE), [...within, what]);
        if (!made) return null;
        before = Math.max(before, made.days);
      }
      const fromShelf = Math.max(0, needed - (made?.quantity ?? 0) * SCALE);
      left.set(component, (left.get(component) ?? 0) - fromShelf);
      components.push({ item: component, perUnit, fromShelf: String(fromShelf / SCALE), made });
    }
    return { item: what, quantity: count, days: before + recipe.days, components };
  };
  return Number.isInteger(quantity) && quantity > 0 ? make(item, quantity, []) : null;
}

/** The most of an item, up to `upTo`, that could be put together, and how; null where it is none. More never needs less. */
export function mostAssembled(item: ItemCode, upTo: number, recipes: ReadonlyMap<string, Recipe>, shelf: Shelf): AssemblyStep | null {
  let [low, high] = [0, Math.floor(upTo)];
  let best: AssemblyStep | null = null;
  while (low < high) {
    const middle = Math.ceil((low + high) / 2);
    const step = assemblySteps(item, middle, recipes, shelf);
    if (step) [best, low] = [step, middle];
    else high = middle - 1;
  }
  return best;
}

/** Every component that is taken from the shelf, all levels of it, by item. */
export function takenFromShelf(step: AssemblyStep): Map<string, number> {
  const taken = new Map<string, number>();
  const walk = ({ components }: AssemblyStep) => {
    for (const { item, fromShelf, made } of components) {
      if (Number(fromShelf) > 0) taken.set(item, (taken.get(item) ?? 0) + Number(fromShelf));
      if (made) walk(made);
    }
  };
  walk(step);
  return taken;
}

/** What the components of one cost, by what the lowest of them cost. */
export function componentCost(
  item: ItemCode,
  recipes: ReadonlyMap<string, Recipe>,
  costs: ReadonlyMap<string, Decimal>,
  within: readonly string[] = [],
): Decimal {
  const recipe = recipes.get(item);
  if (!recipe || recipe.components.length === 0 || within.includes(item)) return costs.get(item) ?? '0';
  return recipe.components.reduce((total, row) => plus(total, times(componentCost(row.item, recipes, costs, [...within, item]), row.quantity)), '0');
}
