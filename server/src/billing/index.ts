export { mountBilling } from './routes';
