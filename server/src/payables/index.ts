export { mountPayables } from './routes';
