export { dayNumber, isoDay, isoWeekday, parseClock, parseDay, parseLocalTime, type DayNumber, type IsoDay } from './day';
export { CARRIER_WEEK, deliveryDay, latestShipDay } from './delivery';
export { workCalendar, type WorkCalendar } from './work-calendar';
export { calendarOf, daysLate, firstShipDay, firstShipDayIn, leavesAgain, leavesAgainIn, type Hours } from './ship-days';
export { readDay } from './read-day';
export { dayByName, daysBetween, shortDay, shortDays, spokenDay } from './words';
