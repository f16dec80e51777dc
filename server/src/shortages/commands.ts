/** The area's commands without its routes, for programs that act in the desk's place: demo data, tests, bench. */
export { askCustomer } from './consent';
export { chooseRoute } from './choose-route';
export { listShortages } from './list-shortages';
