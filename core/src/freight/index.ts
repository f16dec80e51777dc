export { freightCharges, freightWords, type FreightShipment, type FreightTerms } from './freight-charge';
