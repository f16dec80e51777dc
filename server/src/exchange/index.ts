export { mountExchange } from './routes';
