export { callThoseLater, type PromisedAnew } from './call-those-later';
export { slippedDropShipments } from './drop-shipments';
export { owedLate } from './owed-late';
export { toldParts } from './told-parts';
export { deskConfidence, loadOdds } from './arrival-odds';
export { decimal } from '@nockwright/core/promise';
export { loadBook, loadWarehouses } from './load-book';

export { forgetWaiting, newPromises, promiseMore, storePromises, storeRemains, type NewPromise } from './store-promises';
export { decisionOf, describeLines, describeMoved, partsOf, readAccepted, rippleOf, viewRipple, type RipplePlan } from './ripple-plan';
export { checkAsSeen, loadLocked, lockMoving, movesOf, recordMoves, settleMoves, settleRipple } from './settle-ripple';
export { mountPromise } from './routes';
export { acceptedOffers } from './accepted-offers';
export { promiseLines } from './promise-lines';
