/** The area's commands without its routes, for programs that act in the desk's place: demo data, tests, bench. */
export { deliverMail, InHand, sweepMail } from './deliver-mail';
export { mailPaper } from './mail-paper';
export { createTransport } from './transport';
