export { causeWords, type Cause, type KeptCause } from './cause';
export { dealing, dealingWords, toldWords, type Dealing } from './dealing';
export { finding, findingWords, type Finding } from './finding';
export { EVENT_KINDS, eventWords, type EventFacts, type EventKindName, type FactsOf } from './event-kinds';
export { confidenceWords, turnWords } from './order-events';
export { assemblyChangeWords, transferChangeWords } from './supply-events';
export { lineChangeWords, partWords, placeWords } from './parts';
