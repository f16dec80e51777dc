export { Kept } from './kept';
export { Session } from './session';
