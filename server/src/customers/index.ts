export { mountCustomers, findCustomers } from './routes';
