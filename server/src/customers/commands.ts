/** The area's commands without its routes, for programs that act in the desk's place: demo data, tests, bench. */
export { createCustomer } from './create-customer';
export { addReminder } from './reminders';
