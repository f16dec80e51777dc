/** The area's commands without its routes, for programs that act in the desk's place: demo data, tests, bench. */
export { closeLine } from './close-line';
export { confirmDespatch } from './confirm-despatch';
export { createPurchase } from './create-purchase';
export { NOBODY, takeAnswer } from './exchange/take-answer';
export { readPurchase } from './load-purchase';
export { createAssembly, createTransfer } from './make-by-hand';
export { receive } from './receive';
export { reschedule } from './reschedule';
export { sendPurchase } from './send-purchase';
export { shipTransfer } from './transfers';
