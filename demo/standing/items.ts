import { divide, times } from '@nockwright/core/money';
import { checkDigit } from '@nockwright/core/scans';
import type { Db } from '../../server/src/database';
import { ALSO_CALLED, BROOD_BOX, ITEMS, RECIPES, SUBSTITUTES } from '../scenario/items';
import { WAREHOUSES } from '../scenario/partners';
import { apartOf, sizeOf } from '../scenario/sizes';

/** Kept apart by lot, and they expire. */
const BY_LOT = /^(FEE|TRT)-/;

function binOf(at: number): string {
  return `${'ABCDEF'[Math.floor(at / 14)]}-${String(Math.floor((at % 14) / 2) + 1).padStart(2, '0')}`;
}

/** Numbers for use within a company only. Source: GS1 General Specifications, prefixes 200 to 299 (from memory). */
function gtinOf(at: number): string | null {
  if (at < 0) return null;
  const digits = `0200${String(417_000 + at).padStart(9, '0')}`;
  return `${digits}${checkDigit(digits)}`;
}

/** A unit of an item has the item's number with an indicator of its own. Source: GS1 General Specifications, GTIN-14 (from memory). */
function unitGtinOf(at: number, indicator: number): string | null {
  const each = gtinOf(at);
  if (each === null) return null;
  const digits = `${indicator}${each.slice(1, 13)}`;
  return `${digits}${checkDigit(digits)}`;
}

/** Bins behind the others, one for every six items. */
export const RESERVES = Array.from({ length: 12 }, (_, at) => `R-${String(at + 1).padStart(2, '0')}`);

export async function loadItems(db: Db) {
  // A bin for every two items, by aisle and place; each item lives in the bin of the same name at every warehouse.
  // Behind them lie reserve bins, for what does not fit.
  const bins = [...new Set(ITEMS.map((_, at) => binOf(at))), ...RESERVES];
  await db
    .insertInto('bin')
    .values(WAREHOUSES.flatMap(({ code: warehouse }) => [...bins, 'DOCK', 'QUARANTINE'].map((code, at) => ({ warehouse, code, walk: at + 1 }))))
    .execute();
  for (const { code, description, group, unit, weight, list, cost, units, successor } of [...ITEMS, BROOD_BOX].sort(
    (a, b) => Number(a.successor !== undefined) - Number(b.successor !== undefined),
  )) {
    await db
      .insertInto('item')
      .values({
        code,
        description,
        item_group: group,
        unit,
        weight,
        list_price: list,
        cost,
        discontinued: successor !== undefined,
        successor: successor ?? null,
        also: ALSO_CALLED[code] ?? '',
        gtin: gtinOf(ITEMS.findIndex((item) => item.code === code)),
        tracks_lots: BY_LOT.test(code),
        tracks_expiry: BY_LOT.test(code),
        tax_class: /^FEE-/.test(code) ? 'reduced' : 'standard',
        ...sizeOf(code),
        apart: apartOf(code),
      })
      .execute();
    if (units.length > 0)
      await db
        .insertInto('item_unit')
        .values(
          units.map(([other, numerator, denominator], at) => ({
            item: code,
            unit: other,
            numerator,
            denominator,
            gtin: unitGtinOf(
              ITEMS.findIndex((item) => item.code === code),
              at + 1,
            ),
          })),
        )
        .execute();
  }
  await db
    .insertInto('item_home')
    .values(WAREHOUSES.flatMap(({ code: warehouse }) => ITEMS.map((item, at) => ({ item: item.code, warehouse, bin: binOf(at) }))))
    .execute();
  for (const { item, days, components } of RECIPES) {
    await db.updateTable('item').set({ assembly_days: days }).where('code', '=', item).execute();
    await db
      .insertInto('item_component')
      .values(components.map(([component, quantity]) => ({ item, component, quantity })))
      .execute();
  }
  await db
    .insertInto('item_substitute')
    .values(SUBSTITUTES.map(([item, substitute, ratio]) => ({ item, substitute, ratio })))
    .execute();
  await loadBreaks(db);
}

/** Quantity breaks: the larger unit is cheaper than so many single ones; the two customer lists lie below the list. */
async function loadBreaks(db: Db) {
  const breaks = ITEMS.flatMap(({ code, list, unit, units }) => {
    const price = (share: string, each = 1) => divide(times(times(list, each), share), 1, 4);
    const larger = units.flatMap(([other, each]) => [
      { price_list: 'LIST', item: code, unit: other, from_quantity: '1', price: price('0.95', each) },
      { price_list: 'LIST', item: code, unit: other, from_quantity: '20', price: price('0.92', each) },
      { price_list: 'COOP', item: code, unit: other, from_quantity: '1', price: price('0.89', each) },
      { price_list: 'SHOP', item: code, unit: other, from_quantity: '1', price: price('0.91', each) },
    ]);
    return [
      ...larger,
      { price_list: 'COOP', item: code, unit, from_quantity: '1', price: price('0.94') },
      { price_list: 'SHOP', item: code, unit, from_quantity: '6', price: price('0.96') },
    ];
  });
  for (let at = 0; at < breaks.length; at += 200)
    await db
      .insertInto('price_break')
      .values(breaks.slice(at, at + 200))
      .execute();
}
