export { loadRecipes } from './assemblies';
export { boughtBeside, giveUp, loadBoundSupply, touchedBy, poolsOfBound, standingOf, type BoundSupply } from './bound-supply';
export { closeOpenQuantity } from './close-open-quantity';
export { ExchangeFolder, keepGoing, loadStandIn, readMessageTask, SupplierStandIn } from './exchange';
export { loadDraftDropShipments, loadDrafts, loadOffers } from './load-offers';
export { makeForRoutes, type MadeDocument, type RouteToMake } from './make-for-routes';
export { mountSupply } from './routes';
