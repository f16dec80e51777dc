export type { BookAssembly, BookDemand, BookFault, BookItem, BookOrder, BookPromise, BookSupply, BookWarehouse, OrderBook } from './order-book';
export { checkOrderBook, readOrderBook } from './check-book';
export { compileBook, type BookColumns } from './book-columns';
export { promiseColumns, type PromiseMode, type PromiseRun } from './promise-run';
export { promiseBook } from './promise-book';
export { OpenBook, type Trial } from './open-book';
export { toResult, type AtRisk, type DemandPromise, type OrderPromise, type PromiseResult, type ScheduleEntry } from './result';
export { formatResult, resultPieces } from './format-result';
export { spokenPromise, type SpokenPart } from './spoken';
