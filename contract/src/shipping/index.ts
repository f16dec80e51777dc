export { shippingRoutes, type PickView, type ReadyOrder, type ShippingBoard } from './shipping';
