export type { BookAssembly, BookDemand, BookFault, BookItem, BookOrder, BookPromise, BookSupply, BookWarehouse, OrderBook } from './order-book';
export { checkOrderBook, readOrderBook } from './check-book';
export { promiseBook, type PromiseMode } from './promise-book';
export type { AtRisk, DemandPromise, OrderPromise, PromiseResult, ScheduleEntry } from './result';
export { formatResult } from './format-result';
export { spokenPromise, type SpokenPart } from './spoken';
