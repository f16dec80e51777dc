export { addressRecord } from './address-record';
export { CustomerNotes } from './customer-notes';
export { NewCustomer } from './new-customer';
