/** The area's commands without its routes, for programs that act in the desk's place: demo data, tests, bench. */
export { createCustomer } from './create-customer';
export { storeContact } from './contacts';
export { setItemNumber } from './item-numbers';
export { addReminder } from './reminders';
