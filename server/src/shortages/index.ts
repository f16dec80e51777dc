export { mountShortages } from './routes';
