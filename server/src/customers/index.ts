export { checkTerms } from './check-terms';
export { findCustomers } from './find-customers';
export { creditView, lockCredits, readCredit } from './read-credit';
export { itemsByTheirNumbers } from './item-numbers';
export { loadReminders } from './load-reminders';
export { mountCustomers } from './routes';
