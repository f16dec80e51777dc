export { mountLedger } from './routes';
export { reconcile } from './reconcile';
