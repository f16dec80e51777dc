export { assemblySteps, componentCost, mostAssembled, takenFromShelf, type AssemblyStep, type Recipe, type Shelf } from './assembly';
export { routeLabel, sayRoute, whyRoute, type ComparedRoute, type SaidRoute } from './say-route';
export { asksCustomer } from './asks-customer';
export { chosenRoute, routesFor, type ChosenPart, type ChosenRoute } from './routes';
export { comingOf, inboundOf, sparedByWarehouse, type Coming, type LineGoods, type Slipped } from './coming';
export { boundToLifted, leavingDays, liftLine, type Lifted, type Liftable, type LiftResult, type RestsOn } from './lift-line';
export { POLICIES, POLICY_NAMES, type PolicyName, type RoutePolicy } from './policy';
export { obligationWords, remarkWords, routeRemarks, type Obligation, type Remark } from './remark';
export { ROUTE_KINDS, ROUTE_WORDS, type Leaving, type Route, type RouteKind, type RoutePart } from './route';
export { mostReplaced, priceInstead, sentInstead, type OwnPrice, type SentInstead, type StandsFor } from './instead';
export type { AssemblyOffer, Shortage, SubstituteOffer, TransferOffer } from './shortage';
export {
  costFor,
  join,
  orderDay,
  purchaseQuantity,
  supplierArrival,
  supplierShipDay,
  type CostBreak,
  type Joined,
  type OpenDraft,
  type ReceivingPlace,
  type SupplierOffer,
  type SupplierTimes,
} from './supplier-terms';
