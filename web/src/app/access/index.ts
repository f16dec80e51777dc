export { Session } from './session';
