export { OpenCalls } from './open-calls';
export { DueToday } from './due-today';
