/** A notch in the line of a ruler, with its label. */
export interface Cut {
  readonly x: number;
  readonly label: string;
  /** Where the middle of the label stands. */
  readonly middle: number;
  readonly kind: 'covered' | 'late' | 'uncovered';
  readonly offered: boolean;
  readonly dropShip: boolean;
}

const LABEL_ROOM = 30;
/** A digit of a label, and the gap between two labels. */
const DIGIT = 7.3;
const LABEL_GAP = 5;

/** Parts that would stand on each other are told as one label. */
export function merge(cuts: readonly Cut[]): Cut[] {
  const merged: Cut[] = [];
  for (const cut of [...cuts].sort((a, b) => a.x - b.x)) {
    const last = merged[merged.length - 1];
    if (last && last.x === cut.x && last.kind === cut.kind) merged[merged.length - 1] = { ...last, label: String(Number(last.label) + Number(cut.label)) };
    else if (last && cut.x - last.x < LABEL_ROOM && last.label !== '') merged.push({ ...cut, label: cut.kind === 'covered' ? '' : cut.label });
    else merged.push(cut);
  }
  return merged;
}

/** Labels beside each other and within the ruler; one that would stand too far from its notch is left to the words. */
export function apart(cuts: readonly Cut[], width: number): Cut[] {
  let end = -LABEL_GAP;
  return cuts.map((cut) => {
    if (cut.label === '') return cut;
    const half = (cut.label.length * DIGIT) / 2;
    const middle = Math.max(Math.min(cut.x, width - half), end + LABEL_GAP + half, half);
    if (middle - cut.x > LABEL_ROOM || middle + half > width + 1) return { ...cut, label: '' };
    end = middle + half;
    return { ...cut, middle };
  });
}
