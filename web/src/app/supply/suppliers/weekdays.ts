const NAMES = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'] as const;
const WEEK = '1,2,3,4,5';

/** ISO weekdays as they are read: `Mon to Fri`, `Tue, Thu`. */
export function daysInWords(days: readonly number[]): string {
  if (days.join(',') === WEEK) return 'Mon to Fri';
  return days.map((day) => NAMES[day - 1]).join(', ');
}

/** Weekdays as they are typed: `mon to fri`, `tue, thu`; null where a word is none. */
export function readWeekdays(text: string): number[] | null {
  const days = new Set<number>();
  const at = (word: string) => NAMES.findIndex((name) => word.slice(0, 3) === name.toLowerCase()) + 1;
  for (const part of text.toLowerCase().split(/[,;]|\band\b/)) {
    const words = part
      .trim()
      .split(/\s*(?:-|–|\bto\b)\s*|\s+/)
      .filter(Boolean);
    if (words.some((word) => word.length < 3 || at(word) === 0)) return null;
    const isSpan = words.length === 2 && /-|–|\bto\b/.test(part);
    if (isSpan) for (let day = at(words[0]!); day <= at(words[1]!); day++) days.add(day);
    else for (const word of words) days.add(at(word));
  }
  return days.size === 0 ? null : [...days].sort((a, b) => a - b);
}
