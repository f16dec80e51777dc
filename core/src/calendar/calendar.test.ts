import { addBusinessDays, differenceInCalendarDays, format, getISODay, getISOWeek, isValid, parseISO } from 'date-fns';
import fc from 'fast-check';
import {
  dayNumber,
  daysBetween,
  isoDay,
  isoWeekday,
  latestShipDay,
  deliveryDay,
  parseClock,
  parseDay,
  parseLocalTime,
  readDay,
  shortDay,
  shortDays,
  spokenDay,
  workCalendar,
  dayByName,
} from './index';

const anyDay = fc.integer({ min: -200_000, max: 200_000 });
const isoDate = (day: number) => parseISO(isoDay(day));

describe('days', () => {
  test('agree with date-fns on every date, and read what they write', () => {
    fc.assert(
      fc.property(anyDay, (day) => {
        expect(parseDay(isoDay(day))).toBe(day);
        expect(format(isoDate(day), 'yyyy-MM-dd')).toBe(isoDay(day));
        expect(isoWeekday(day)).toBe(getISODay(isoDate(day)));
      }),
    );
  });

  test('exist exactly when date-fns says they do', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 9999 }), fc.integer({ min: 0, max: 14 }), fc.integer({ min: 0, max: 33 }), (year, month, day) => {
        const text = [String(year).padStart(4, '0'), String(month).padStart(2, '0'), String(day).padStart(2, '0')].join('-');
        expect(parseDay(text) !== null).toBe(isValid(parseISO(text)));
      }),
    );
  });

  // ISO 8601 (from memory): 2026-12-31 and 2027-01-03 lie in week 53 of 2026; 2027-01-04 starts week 1 of 2027.
  test.each([
    ['2026-12-31', 53, 4],
    ['2027-01-03', 53, 7],
    ['2027-01-04', 1, 1],
  ])('ISO 8601: %s is in week %i, weekday %i', (text, week, weekday) => {
    expect(getISOWeek(parseISO(text))).toBe(week);
    expect(isoWeekday(dayNumber(text))).toBe(weekday);
  });

  test.each(['2027-2-1', '2027-02-29', '2027-13-01', '27-01-01', '2027-01-01T00:00', ' 2027-01-01', ''])('%j is no day', (text) =>
    expect(parseDay(text)).toBeNull(),
  );

  test.each(['2027-03-01T24:00', '2027-03-01T9:30', '2027-03-01 09:30', '2027-03-01T09:30:00', '2027-02-30T09:30'])('%j is no local time', (text) =>
    expect(parseLocalTime(text)).toBeNull(),
  );

  test('a local time is its day and the minute of it', () => {
    expect(parseLocalTime('2027-03-01T09:30')).toEqual({ day: dayNumber('2027-03-01'), minute: 570 });
    expect(parseClock('23:59')).toBe(1439);
    expect(parseClock('24:00')).toBeNull();
  });

  test('a day number that cannot be is a broken promise of the caller', () => expect(() => dayNumber('2027-02-30')).toThrow(/expected YYYY-MM-DD/));

  test('days between are calendar days', () => {
    fc.assert(fc.property(anyDay, anyDay, (a, b) => expect(daysBetween(isoDay(a), isoDay(b))).toBe(differenceInCalendarDays(isoDate(b), isoDate(a)))));
  });
});

/** Walks day by day: slow, and plainly right. */
function slowCalendar(workdays: readonly number[], closed: readonly number[]) {
  const works = (day: number) => workdays.includes(isoWeekday(day)) && !closed.includes(day);
  const step = (day: number, by: number) => {
    let at = day + by;
    while (!works(at)) at += by;
    return at;
  };
  return {
    isWorkingDay: works,
    floor: (day: number) => (works(day) ? day : step(day, -1)),
    ceil: (day: number) => (works(day) ? day : step(day, 1)),
    offset: (day: number, count: number) => {
      let at = day;
      for (let i = 0; i < Math.abs(count); i++) at = step(at, Math.sign(count));
      return at;
    },
  };
}

describe('working days', () => {
  test('Monday to Friday counts as date-fns addBusinessDays does', () => {
    const calendar = workCalendar([1, 2, 3, 4, 5], []);
    fc.assert(
      fc.property(anyDay, fc.integer({ min: -400, max: 400 }), (day, count) => {
        const start = calendar.ceil(day);
        expect(isoDay(calendar.offset(start, count))).toBe(format(addBusinessDays(isoDate(start), count), 'yyyy-MM-dd'));
      }),
    );
  });

  test('any weekdays and closed days: the same as walking day by day', () => {
    const weekdays = fc.uniqueArray(fc.integer({ min: 1, max: 7 }), { minLength: 1 });
    fc.assert(
      fc.property(
        weekdays,
        fc.array(fc.integer({ min: 20_000, max: 20_060 })),
        fc.integer({ min: 19_990, max: 20_080 }),
        fc.integer({ min: -30, max: 30 }),
        (workdays, closed, day, count) => {
          const [fast, slow] = [workCalendar(workdays, closed), slowCalendar(workdays, closed)];
          expect(fast.isWorkingDay(day)).toBe(slow.isWorkingDay(day));
          expect(fast.floor(day)).toBe(slow.floor(day));
          expect(fast.ceil(day)).toBe(slow.ceil(day));
          expect(fast.offset(fast.ceil(day), count)).toBe(slow.offset(slow.ceil(day), count));
        },
      ),
    );
  });

  test('a day and its transit: the latest ship day for a delivery day is in time, and a working day later is not', () => {
    const carrier = workCalendar([1, 2, 3, 4, 5], []);
    fc.assert(
      fc.property(anyDay, fc.integer({ min: 0, max: 6 }), (day, transit) => {
        const delivery = isoDay(day);
        const ship = latestShipDay(delivery, transit, carrier);
        expect(deliveryDay(ship, transit, carrier) <= delivery).toBe(true);
        expect(deliveryDay(isoDay(carrier.offset(dayNumber(ship), 1)), transit, carrier) > delivery).toBe(true);
      }),
    );
  });

  test('no working day at all is refused', () => expect(() => workCalendar([], [])).toThrow(/at least one/));
});

describe('days in words', () => {
  const today = '2027-03-09'; // a Tuesday

  test.each([
    ['today', '2027-03-09'],
    ['tomorrow', '2027-03-10'],
    ['tue', '2027-03-09'],
    ['fri', '2027-03-12'],
    ['monday', '2027-03-15'],
    ['+3', '2027-03-12'],
    ['12', '2027-03-12'],
    ['8', '2027-04-08'],
    ['12 mar', '2027-03-12'],
    ['8 mar', '2028-03-08'],
    ['12/4', '2027-04-12'],
    ['12.4.', '2027-04-12'],
    ['1 march 2029', '2029-03-01'],
    ['2027-04-30', '2027-04-30'],
    ['31 apr', null],
    ['fr', null],
    ['fri next week', '2027-03-19'],
    ['next week friday', '2027-03-19'],
    ['mon next week', '2027-03-15'],
    ['friday week', '2027-03-19'],
    ['tuesday week', '2027-03-16'],
    ['next fri', '2027-03-19'],
    ['next tuesday', '2027-03-16'],
    ['next', null],
    ['next week', null],
    ['soon', null],
    ['', null],
  ])('%j is read as %s', (text, day) => expect(readDay(text, today)).toBe(day));

  test('are short on screens and whole when said', () => {
    expect(shortDay('2027-03-12', today)).toBe('Fri 12 Mar');
    expect(shortDay('2028-01-03', today)).toBe('Mon 3 Jan 2028');
    expect(shortDays(['2027-03-16', '2027-03-12', '2027-04-01', '2027-03-12'], today)).toBe('Fri 12 + Tue 16 Mar + Thu 1 Apr');
    expect(spokenDay('2027-03-09', today)).toBe('today');
    expect(spokenDay('2027-03-10', today)).toBe('tomorrow');
    expect(spokenDay('2027-03-18', today)).toBe('Thursday the 18th');
    expect(spokenDay('2027-04-01', today)).toBe('Thursday the 1st of April');
    expect(spokenDay('2028-01-03', today)).toBe('Monday the 3rd of January 2028');
  });
});

test('a day by its name is the same whenever it is read: never today or tomorrow', () => {
  expect(['2027-03-09', '2027-03-10', '2027-03-12', '2027-04-02', '2028-01-03'].map((day) => dayByName(day, '2027-03-09'))).toEqual([
    'Tuesday the 9th',
    'Wednesday the 10th',
    'Friday the 12th',
    'Friday the 2nd of April',
    'Monday the 3rd of January 2028',
  ]);
});
