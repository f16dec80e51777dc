export { paperPdf, type PaperKind, type ToldOrder } from './order-paper';
export { loadLastPaper, loadLastPapers, loadPaper, paperFileName, paperReply, papersReply, type Paper } from './read-paper';
export { mountDocuments } from './routes';
export { storePaper } from './store-paper';
