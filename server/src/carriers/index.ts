export { CarrierClient, CarrierFault } from './carrier-client';
export type { Destination, LabelRequest, MadeLabel, Parcel, Rate, RateRequest, StandInBehaviour, TrackingNews } from './protocol';
