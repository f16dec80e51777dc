/** The area's commands without its routes, for programs that act in the desk's place: demo data, tests, bench. */
export { addLine, addLines } from './add-lines';
export { cancelOrder } from './cancel-order';
export { changeOrder } from './change-order';
export { createOrder } from './create-order';
export { holdOrder } from './store-holds';
export { promiseRest } from './promise-rest';
export { previewTurn, rankOrder } from './rank-order';
export { readOrder } from './read-order';
export { releaseOrder } from './release-order';
export { setPrice } from './set-price';
