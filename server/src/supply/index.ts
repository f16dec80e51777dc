export { loadRecipes } from './assemblies';
export { boughtBeside, giveUp, loadBoundSupply, lockBoundSupply, poolsOfBound, standingOf, type BoundSupply } from './bound-supply';
export { closeOpenQuantity } from './close-open-quantity';
export { ExchangeFolder, keepGoing, loadStandIn, readMessageTask, SupplierStandIn } from './exchange';
export { draftFor, loadDraftDropShipments, loadDrafts, loadOffers, type DraftPurchase, type ItemOffer } from './load-offers';
export { makeForRoutes, type MadeDocument, type RouteToMake } from './make-for-routes';
export { mountSupply } from './routes';
