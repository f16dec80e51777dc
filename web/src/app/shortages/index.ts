export { AskForm } from './ask-form';
export { ChosenRoutes, type Undo } from './chosen-routes';
export { ConsentNote } from './consent-note';
export { RouteWays } from './route-ways';
export { asksCustomer, POLICY_CHOICES, wishesOf, type PolicyName } from './route-words';
