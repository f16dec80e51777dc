export { paperPdf, type PaperKind, type ToldOrder } from './order-paper';
export { loadLastPaper, loadPaper, paperFileName, paperReply, type Paper } from './read-paper';
export { mountDocuments } from './routes';
export { storePaper } from './store-paper';
