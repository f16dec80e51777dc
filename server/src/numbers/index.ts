export { nextNumber, shipmentNumber } from './next-number';
