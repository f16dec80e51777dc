export { acknowledgementPdf, type ToldOrder } from './acknowledgement';
