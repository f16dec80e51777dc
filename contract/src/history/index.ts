export { dealing, dealingWords, toldWords, type Dealing } from './dealing';
export { EVENT_KINDS, eventWords, type EventFacts, type EventKindName, type FactsOf } from './event-kinds';
export { confidenceWords, turnWords } from './order-events';
export { assemblyChangeWords, lineChangeWords, transferChangeWords } from './supply-events';
export { partWords, placeWords } from './parts';
