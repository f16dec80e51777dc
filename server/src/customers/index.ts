export { findCustomers } from './find-customers';
export { creditView, lockCredits, lockCustomers, readCredit } from './read-credit';
export { loadReminders } from './load-reminders';
export { mountCustomers } from './routes';
