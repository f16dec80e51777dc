export { promiseRoutes, type LatenessView, type PromiseCheck, type ResequenceRun } from './promise-routes';
export { accepting, decision, part, rippleView, type Decision, type Mover, type PromisePart, type RippleView } from './ripple';
