import { dayNumber, isoDay, isoWeekday } from '@nockwright/core/calendar';
import { inThisThread } from '../../server/src/work';
import { createTransport, deliverMail } from '../../server/src/mail/commands';
import type { CommandContext, CurrentUser } from '../../server/src/http/context';
import type { Db, Trx } from '../../server/src/database';

/** Carries out the desk's own commands on a day of the past, so that the demo holds nothing the application could not have made. */
export class DeskDays {
  /** Mail of the demo is handed over by the demo itself, on the day it was written: nothing waits. */
  protected readonly jobs: CommandContext['jobs'] = { send: async () => undefined };

  constructor(
    protected readonly db: Db,
    protected readonly user: CurrentUser,
    readonly today: string,
  ) {}

  /** The working day `days` days before or after today; the past is moved back from a weekend, what is to come on from it. */
  day(days: number): string {
    return workingDay(dayNumber(this.today) + days, days < 0);
  }

  /** Runs commands as of `days` days from today. */
  on<R>(days: number, run: (context: CommandContext) => Promise<R>, time = '10:15'): Promise<R> {
    return this.transaction(days, time, this.user, run);
  }

  protected async transaction<R>(days: number, time: string, user: CurrentUser, run: (context: CommandContext) => Promise<R>): Promise<R> {
    const now = this.nowOn(days, time);
    const done = await this.db
      .transaction()
      .execute((trx: Trx) => run({ trx, user, now, jobs: this.jobs, publicUrl: 'http://127.0.0.1', afterCommit: () => undefined }));
    await this.deliverToSuppliers(now);
    return done;
  }

  /** What suppliers are told goes out at once; mail to customers when the demo says so. */
  private async deliverToSuppliers(now: CommandContext['now']): Promise<void> {
    const waiting = await this.db.selectFrom('mail').select('id').where('state', '=', 'waiting').where('purchase_id', 'is not', null).execute();
    for (const { id } of waiting)
      await deliverMail({ db: this.db, clock: () => now, jobs: this.jobs, publicUrl: '', work: inThisThread }, createTransport(this.db, undefined), id, false);
  }

  protected nowOn(days: number, time: string): CommandContext['now'] {
    const today = days === 0 ? this.today : this.day(days);
    const localTime = `${today}T${days === 0 ? '08:05' : time}`;
    return { today, localTime, instant: new Date(localTime) };
  }
}

/** The day itself; where it falls on a weekend the Monday after, or the Friday before where `back`. */
export function workingDay(day: number, back = false): string {
  const weekday = isoWeekday(day);
  if (weekday <= 5) return isoDay(day);
  return isoDay(back ? day + 5 - weekday : day + 8 - weekday);
}
