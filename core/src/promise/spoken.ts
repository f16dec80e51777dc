import { spokenDay, type IsoDay } from '../calendar';

export interface SpokenPart {
  readonly day: IsoDay;
  readonly quantity: number;
}

/**
 * One plain sentence to say to the customer about a line: `I can send 360 today; the other 240 leave on Thursday the
 * 18th.` `parts` ascending by day; `uncovered` is what has no day yet.
 */
export function spokenPromise(parts: readonly SpokenPart[], uncovered: number, today: IsoDay): string {
  const [first, ...rest] = mergeDays(parts);
  if (!first) return uncovered > 0 ? `I have no day yet for the ${uncovered}; I will find a way and call you back.` : 'Nothing is left to send.';
  const whole = rest.length === 0 && uncovered === 0;
  const all = first.quantity === 1 ? 'It leaves' : `All ${first.quantity} leave`;
  const opening = whole ? `${all} ${on(first.day, today)}` : `I can send ${first.quantity} ${on(first.day, today)}`;
  const others = rest.map(
    ({ day, quantity }, at) =>
      `${at === rest.length - 1 && uncovered === 0 ? 'the other ' : ''}${quantity} ${quantity === 1 ? 'leaves' : 'leave'} ${on(day, today)}`,
  );
  const open = uncovered > 0 ? [`for the other ${uncovered} I have no day yet`] : [];
  return `${[opening, ...others, ...open].join('; ')}.`;
}

function on(day: IsoDay, today: IsoDay) {
  const said = spokenDay(day, today);
  return said === 'today' || said === 'tomorrow' ? said : `on ${said}`;
}

function mergeDays(parts: readonly SpokenPart[]): SpokenPart[] {
  const merged: { day: IsoDay; quantity: number }[] = [];
  for (const part of parts) {
    const last = merged[merged.length - 1];
    if (last && last.day === part.day) last.quantity += part.quantity;
    else merged.push({ ...part });
  }
  return merged;
}
