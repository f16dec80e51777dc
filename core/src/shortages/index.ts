export { purchaseQuantity, routesFor, specialOrderDay, supplierDay, type Route, type RouteKind, type Shortage, type SupplierOffer } from './routes';
