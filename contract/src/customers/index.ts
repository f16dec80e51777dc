export { customerRoutes, shipTo, type Customer, type CustomerFound, type ShipTo } from './customers';
