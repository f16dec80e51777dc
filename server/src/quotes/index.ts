export { mountQuotes } from './routes';
