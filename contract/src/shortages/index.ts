export { combinations, type Combinations, type CombinationView } from './combination-shapes';
export { consentView, CONSENT_STATES, outcomeWords, type ConsentAnswer, type ConsentOutcome, type ConsentView, type ConsentWish } from './consent';
export {
  chosenRoute,
  policyName,
  routeChoice,
  routeChoices,
  routeWish,
  undoing,
  type ChosenRoute,
  type RouteChoice,
  type RouteChoices,
  type RouteWish,
  type Undoing,
} from './route-shapes';
export {
  MOST_ROUTED,
  shortageRoutes,
  type Gathered,
  type PlannedRoute,
  type Routed,
  type RoutePlan,
  type RoutePolicyView,
  type ShortageRow,
  type Shortages,
} from './shortages';
