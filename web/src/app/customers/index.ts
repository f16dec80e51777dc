export { AddressForm } from './address-form';
export { CustomerNotes } from './customer-notes';
export { NewCustomer } from './new-customer';
