export { promiseRoutes, type LatenessView, type PromiseCheck, type ResequenceRun } from './promise-routes';
export { accepting, decision, part, offersView, rippleView, type Decision, type Mover, type OffersView, type PromisePart, type RippleView } from './ripple';
