/**
 * Units by their UN/ECE Recommendation 20 code (packages by Recommendation 21, which Recommendation 20 takes in with
 * the prefix X). Code, name, and the plural as the desk says it.
 */
export const UNIT_CODES = {
  EA: { name: 'each', plural: 'each' },
  H87: { name: 'piece', plural: 'pieces' },
  DZN: { name: 'dozen', plural: 'dozen' },
  PR: { name: 'pair', plural: 'pairs' },
  SET: { name: 'set', plural: 'sets' },
  KGM: { name: 'kg', plural: 'kg' },
  LTR: { name: 'litre', plural: 'litres' },
  MTR: { name: 'metre', plural: 'metres' },
  XCS: { name: 'case', plural: 'cases' },
  XBX: { name: 'box', plural: 'boxes' },
  XCT: { name: 'carton', plural: 'cartons' },
  XPK: { name: 'packet', plural: 'packets' },
  XPX: { name: 'pallet', plural: 'pallets' },
  XTY: { name: 'tray', plural: 'trays' },
} as const satisfies Record<string, { name: string; plural: string }>;

export type UnitCode = keyof typeof UNIT_CODES;

/** `20 trays`, `1 tray`, `480 each`: a quantity with its unit's name; the code itself where it is not known. */
export function quantityInWords(quantity: string, code: string): string {
  return `${quantity} ${unitName(code, quantity)}`;
}

/** The name of a unit, in the plural unless `quantity` is 1. */
export function unitName(code: string, quantity = '1'): string {
  const unit = (UNIT_CODES as Record<string, { name: string; plural: string }>)[code];
  if (!unit) return code;
  return Number(quantity) === 1 ? unit.name : unit.plural;
}
