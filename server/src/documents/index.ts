export { paperPdf, type PaperKind, type ToldOrder } from './order-paper';
export { drawPapersTask, drawPaperTask, loadLastPaper, loadLastPapers, loadPaper, paperFileName, paperReply, papersReply, type Paper } from './read-paper';
export { mountDocuments } from './routes';
export { reviseAcknowledgement, storePaper, storePurchasePaper } from './store-paper';
