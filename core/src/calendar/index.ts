export { dayNumber, isoDay, isoWeekday, parseClock, parseDay, parseLocalTime, type DayNumber, type IsoDay } from './day';
export { deliveryDay, latestShipDay } from './delivery';
export { workCalendar, type WorkCalendar } from './work-calendar';
export { readDay } from './read-day';
export { dayByName, daysBetween, shortDay, shortDays, spokenDay } from './words';
