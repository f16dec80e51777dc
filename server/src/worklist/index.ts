export { addCall, sameParts, type NewCall } from './calls';
export { mountWorklist } from './routes';
