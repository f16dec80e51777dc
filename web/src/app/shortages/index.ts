export { AskForm } from './ask-form';
export { ChosenRoutes, type Undo } from './chosen-routes';
export { ConsentNote } from './consent-note';
export { asksCustomer, lateWords, POLICY_CHOICES, scheduleOf, wishesOf, type PolicyName } from './route-words';
