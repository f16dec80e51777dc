export { mountShipping } from './routes';
