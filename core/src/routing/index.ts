export { bookAfterLifting, type Lifting } from './after-lifting';
export { combineRoutes, COMBINATION_NAMES, type Combination, type CombinationName } from './combine-routes';
export { decideDraftRoute, type DraftDecision, type DraftRoute, type DraftStanding } from './decide-draft-route';
export { decideRouting, type Decided, type LineChoice, type Routing } from './decide-routing';
export {
  answered,
  feeKey,
  policyOf,
  poolsFor,
  soldKey,
  substituteOf,
  sureFor,
  type Answered,
  type DeskPolicy,
  type DraftPurchase,
  type DropShipment,
  type ItemOffer,
  type RoutedLine,
  type RoutingFacts,
  type Substitute,
  type WaysLeft,
} from './routing-facts';
export { ownPriceOf } from './price-instead';
export { planRouting, type Planned, type PlannedLine } from './plan-routing';
export { lift, openOf, shortOf, takesBack } from './short-of';
export { assemblyDays, shortageOf } from './shortage-of';
export { allWays, takeWays } from './ways-left';
