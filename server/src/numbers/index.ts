export { nextNumber } from './next-number';
