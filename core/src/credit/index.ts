export { creditLeft, daysOverdue, exposureOf, passesLimit, type CreditFacts } from './credit';
