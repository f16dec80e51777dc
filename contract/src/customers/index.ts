export { customerRoutes, type Customer, type CustomerFound, type ShipTo } from './customers';
