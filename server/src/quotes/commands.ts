/** The area's commands without its routes, for programs that act in the desk's place: demo data, tests, bench. */
export { acceptQuote } from './accept-quote';
export { loseQuote } from './lose-quote';
export { reviseQuote } from './revise-quote';
export { sendQuote } from './send-quote';
