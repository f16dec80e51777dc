import { UNIT_CODES } from './unit-codes';

/** Words for units beside their names and codes: as they are said and written. */
const WORDS: Readonly<Record<string, string>> = {
  each: 'EA',
  ea: 'EA',
  unit: 'EA',
  units: 'EA',
  pc: 'H87',
  pcs: 'H87',
  pce: 'H87',
  dz: 'DZN',
  doz: 'DZN',
  dozens: 'DZN',
  pr: 'PR',
  prs: 'PR',
  bx: 'XBX',
  bxs: 'XBX',
  cs: 'XCS',
  ctn: 'XCT',
  ctns: 'XCT',
  cartons: 'XCT',
  pack: 'XPK',
  packs: 'XPK',
  pk: 'XPK',
  pkt: 'XPK',
  pkts: 'XPK',
  plt: 'XPX',
  plts: 'XPX',
};

/** The code of a unit by its code, name, plural or what it is called; null where it is none. */
export function readUnit(word: string): string | null {
  const wanted = word.toLowerCase();
  if (WORDS[wanted]) return WORDS[wanted];
  const found = Object.entries(UNIT_CODES).find(([code, unit]) => code.toLowerCase() === wanted || unit.name === wanted || unit.plural === wanted);
  return found ? found[0] : null;
}
