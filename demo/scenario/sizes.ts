/** Sizes of one stocking unit in centimetres: length, width, height; the first of these that an item's code begins with. Invented. */
const SIZES: readonly (readonly [begins: string, length: number, width: number, height: number])[] = [
  ['HIV', 55, 50, 75],
  ['BOD', 51, 46, 25],
  ['SUP', 51, 46, 17],
  ['FLR', 52, 46, 6],
  ['ROF', 54, 49, 18],
  ['CRB', 51, 46, 2],
  ['QEX', 51, 46, 2],
  ['STD', 50, 45, 14],
  ['FRM', 44, 22, 2],
  ['FND', 41, 22, 0.3],
  ['WAX', 18, 10, 6],
  ['JAR', 7, 7, 11],
  ['LID', 7, 7, 1.5],
  ['FEE', 30, 22, 20],
  ['TRT', 14, 9, 5],
  ['SUT', 40, 30, 8],
  ['GLV', 30, 14, 4],
  ['VEI', 34, 30, 8],
  ['EXT', 70, 70, 95],
  ['TNK', 45, 45, 60],
];

const USUAL = [20, 12, 8] as const;

export function sizeOf(code: string): { readonly length_cm: string; readonly width_cm: string; readonly height_cm: string } {
  const found = SIZES.find(([begins]) => code.startsWith(begins));
  const [length, width, height] = found ? found.slice(1) : USUAL;
  return { length_cm: String(length), width_cm: String(width), height_cm: String(height) };
}

/** Treatments may not lie with what is eaten. */
export function apartOf(code: string): string {
  return code.startsWith('TRT') ? 'treatment' : code.startsWith('FEE') ? 'feed' : '';
}
