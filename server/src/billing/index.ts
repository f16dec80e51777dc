export { billPaid } from './bill-paid';
export { mountBilling } from './routes';
