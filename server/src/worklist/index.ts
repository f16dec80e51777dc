export { addCall, type NewCall } from './calls';
export { mountWorklist } from './routes';
