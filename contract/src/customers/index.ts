export { credit, customerRoutes, shipTo, type CreditView, type Customer, type CustomerFound, type ShipTo } from './customers';
