import { format } from 'date-fns/format';

/** What the shell reads from the clock, once for each command. */
export interface Now {
  /** Local day, `YYYY-MM-DD`. */
  readonly today: string;
  /** Local time, `YYYY-MM-DDTHH:MM`: what the promise is computed as of. */
  readonly localTime: string;
  readonly instant: Date;
}

export type Clock = () => Now;

/**
 * The clock of the application. `fixed` (`YYYY-MM-DD` or `YYYY-MM-DDTHH:MM`, from NOCK_TODAY) makes it stand on that
 * day, at 09:30 unless a time is given, so that tests and pictures are the same on any day.
 */
export function createClock(fixed: string | undefined): Clock {
  if (!fixed) {
    return () => {
      const instant = new Date();
      const localTime = format(instant, "yyyy-MM-dd'T'HH:mm");
      return { today: localTime.slice(0, 10), localTime, instant };
    };
  }
  const localTime = fixed.includes('T') ? fixed : `${fixed}T09:30`;
  const instant = new Date(localTime);
  if (Number.isNaN(instant.getTime())) throw new Error(`NOCK_TODAY: expected YYYY-MM-DD or YYYY-MM-DDTHH:MM, got ${fixed}`);
  return () => ({ today: localTime.slice(0, 10), localTime, instant });
}
