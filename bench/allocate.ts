import { allocate, type FreePlace, type PickWant } from '@nockwright/core/allocation';
import { rollDice } from '../demo/dice';
import { least, type Figure } from './measure';

const LINES = 2_000;
const BINS = 50_000;
const ITEMS = 2_000;
const RUNS = 5;
const LIMIT_MS = 300;

/** Lines of many picks at once over a warehouse of many bins, lots and handling units; against the time it may take, and against sorting as many keys. */
export function measureAllocation(): Figure[] {
  const dice = rollDice(417);
  const places: FreePlace[] = Array.from({ length: BINS }, (_, id) => ({
    id,
    item: `I${id % ITEMS}`,
    warehouse: 'MAR',
    bin: `B${id}`,
    walk: dice.whole(1, BINS),
    lot: `L${id % 7}`,
    expires: id % 3 === 0 ? null : `2027-${String((id % 9) + 4).padStart(2, '0')}-15`,
    free: String(dice.whole(1, 60)),
  }));
  const wants: PickWant[] = Array.from({ length: LINES }, (_, key) => ({
    key,
    item: `I${key % ITEMS}`,
    warehouse: 'MAR',
    quantity: String(dice.whole(1, 200)),
    until: '2027-04-01',
    units: key % 2 === 0 ? ['12'] : [],
  }));
  const keys = Float64Array.from(places, (place) => place.walk);
  const sort = least(() => keys.slice().sort(), RUNS);
  const taken = least(() => allocate(wants, places), RUNS);
  const name = `allocating ${LINES.toLocaleString('en')} lines over ${BINS.toLocaleString('en')} bins`;
  return [
    { name, ratio: taken / LIMIT_MS, against: `${LIMIT_MS} ms`, target: 1 },
    { name, ratio: taken / sort, against: 'sorting as many keys in a typed array' },
  ];
}
