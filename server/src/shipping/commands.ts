/** The area's commands without its routes, for programs that act in the desk's place: demo data, tests, bench. */
export { readBoard } from './read-board';
export { cancelPick, ship } from './ship';
export { startPick } from './start-pick';
