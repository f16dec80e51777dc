import { uniformInt } from 'pure-rand/distribution/uniformInt';
import { xoroshiro128plus } from 'pure-rand/generator/xoroshiro128plus';

/** Chance with a fixed seed: the same demo on every machine. */
export interface Dice {
  /** A whole number from `least` to `most`, both included. */
  whole(least: number, most: number): number;
  /** One of the values, all as likely. */
  pick<T>(values: readonly T[]): T;
  /** Yes, `percent` times in a hundred. */
  chance(percent: number): boolean;
}

export function rollDice(seed: number): Dice {
  const generator = xoroshiro128plus(seed);
  const whole = (least: number, most: number) => uniformInt(generator, least, most);
  return { whole, pick: (values) => values[whole(0, values.length - 1)]!, chance: (percent) => whole(1, 100) <= percent };
}
