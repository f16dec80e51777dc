export { mountCounter } from './routes';
