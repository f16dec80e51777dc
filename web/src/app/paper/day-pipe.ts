import { inject, Pipe, type PipeTransform } from '@angular/core';
import { shortDay } from '@nockwright/core/calendar';
import { Session } from '../access';

/** A day as the desk writes it: `Thu 12 Mar`; a dash where there is none. */
@Pipe({ name: 'day' })
export class DayPipe implements PipeTransform {
  private readonly session = inject(Session);

  transform(day: string | null | undefined): string {
    return day ? shortDay(day, this.session.today()) : '–';
  }
}
