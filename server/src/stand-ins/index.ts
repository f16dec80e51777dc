export { CarrierStandIn, type CarrierSettings } from './carrier';
export { chargeCard, type CardAnswer } from './card-terminal';
