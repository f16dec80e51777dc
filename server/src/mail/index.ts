export { deliverMail, sweepMail } from './deliver-mail';
export { mountMail } from './routes';
export { createTransport } from './transport';
