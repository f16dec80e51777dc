export { creditView, lockCredit, readCredit } from './read-credit';
export { mountCustomers, findCustomers } from './routes';
