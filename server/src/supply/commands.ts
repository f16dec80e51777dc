/** The area's commands without its routes, for programs that act in the desk's place: demo data, tests, bench. */
export { closeLine } from './close-line';
export { confirmDespatch } from './confirm-despatch';
export { createPurchase } from './create-purchase';
export { readPurchase } from './load-purchase';
export { receive } from './receive';
export { reschedule } from './reschedule';
export { sendPurchase } from './send-purchase';
