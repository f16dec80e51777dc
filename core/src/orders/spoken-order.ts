import { shortDay, spokenDay, type IsoDay } from '../calendar';

/** What is open of a line, as it is told on the telephone. */
export interface ToldLine {
  readonly description: string;
  /** The days on which parts of it leave. */
  readonly days: readonly IsoDay[];
  /** Something of it has no day yet. */
  readonly open: boolean;
  /** It leaves later than requested, or has no day. */
  readonly late: boolean;
  /** The sentence for the line itself. */
  readonly spoken: string;
}

/** More lines than that are summed up; fewer are told one by one. */
const MOST_TOLD = 4;
/** Days that are named besides the one most lines leave on. */
const MOST_DAYS = 3;

/**
 * What to say of an order: that all leaves in time; of a few late lines the sentence of each; of many how many leave on
 * which day, by the last day of each line, the most first, and for how many there is no day yet.
 */
export function spokenOrder(lines: readonly ToldLine[], today: IsoDay): string {
  const late = lines.filter((line) => line.late);
  if (lines.length === 0) return '';
  if (late.length === 0) return `Everything leaves in time, the last of it ${shortDay(lines.flatMap((line) => line.days).reduce(later), today)}.`;
  if (late.length <= MOST_TOLD) return late.map((line) => `${line.description}: ${line.spoken}`).join(' ');
  return summedUp(lines, today);
}

function summedUp(lines: readonly ToldLine[], today: IsoDay): string {
  const open = lines.filter((line) => line.open);
  const byDay = new Map<IsoDay, ToldLine[]>();
  for (const line of lines) {
    if (line.open || line.days.length === 0) continue;
    const day = line.days.reduce(later);
    byDay.set(day, [...(byDay.get(day) ?? []), line]);
  }
  const groups = [...byDay].sort(([a, of], [b, others]) => others.length - of.length || (a < b ? -1 : 1));
  const [first, ...rest] = groups;
  const named = rest.slice(0, MOST_DAYS).sort(([a], [b]) => (a < b ? -1 : 1));
  const others = rest.slice(MOST_DAYS).flatMap(([, of]) => of);
  const parts = [
    ...(first ? [`${first[1].length} of the ${lines.length} lines ${first[1].length === 1 ? 'leaves' : 'leave'} ${on(first[0], today)}`] : []),
    ...named.map(([day, of]) => `${of.length === 1 ? of[0]!.description : of.length} ${on(day, today)}`),
    ...(others.length > 0 ? [`${others.length} later, the last ${on(others.flatMap((line) => line.days).reduce(later), today)}`] : []),
    ...(open.length > 0
      ? [
          `for ${open.length === lines.length ? `all ${open.length}` : open.length === 1 ? open[0]!.description : open.length} I have no day yet and will call you back`,
        ]
      : []),
  ];
  const said = parts.join('; ');
  return `${said[0]!.toUpperCase()}${said.slice(1)}.`;
}

function on(day: IsoDay, today: IsoDay): string {
  const said = spokenDay(day, today);
  return said === 'today' || said === 'tomorrow' ? said : `on ${said}`;
}

function later(a: IsoDay, b: IsoDay): IsoDay {
  return a > b ? a : b;
}
