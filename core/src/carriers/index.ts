export { billableWeight } from './billable-weight';
export { chooseService, type ServiceChoice, type ServiceOffer } from './choose-service';
