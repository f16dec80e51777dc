export { addCalls, sameParts, type NewCall } from './calls';
export { mountWorklist } from './routes';
