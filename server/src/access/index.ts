export { mountAccess } from './routes';
