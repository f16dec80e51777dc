import type { LineView } from '@nockwright/contract/orders';
import { shortDay } from '@nockwright/core/calendar';
import { amountInWords } from '../../paper';

/** What has changed of a line since it was quoted, in words; nothing where all is as quoted. */
export function changedWords(
  line: Pick<LineView, 'quoted' | 'price' | 'offered' | 'schedule' | 'uncovered' | 'state' | 'unit'>,
  today: string,
): readonly string[] {
  const { quoted } = line;
  if (!quoted) return [];
  const words: string[] = [];
  const price = line.offered?.parts[0]?.price ?? line.price;
  if (quoted.unit === line.unit && Number(price) !== Number(quoted.price)) words.push(`quoted at ${amountInWords(quoted.price)}, now ${amountInWords(price)}`);
  const day = lastDay(line);
  if (line.state !== 'done' && day !== quoted.day)
    words.push(`quoted ${quoted.day ? `for ${shortDay(quoted.day, today)}` : 'without a day'}, now ${day ? shortDay(day, today) : 'without a day'}`);
  return words;
}

function lastDay({ schedule, uncovered }: Pick<LineView, 'schedule' | 'uncovered'>): string | null {
  const days = schedule.map((entry) => entry.arrives ?? entry.day).sort();
  return Number(uncovered) > 0 ? null : (days.at(-1) ?? null);
}
