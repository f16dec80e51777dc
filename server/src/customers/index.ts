export { findCustomers } from './find-customers';
export { creditView, lockCredit, lockCredits, readCredit } from './read-credit';
export { loadReminders } from './load-reminders';
export { mountCustomers } from './routes';
