export { paperPdf, type PaperKind, type ToldOrder } from './order-paper';
export {
  drawPapersTask,
  drawPaperTask,
  loadInvoicePaper,
  loadLastPaper,
  loadLastPapers,
  loadPaper,
  paperFileName,
  paperReply,
  papersReply,
  type Paper,
} from './read-paper';
export { mountDocuments } from './routes';
export { cartonLabelsPdf, type ToldCarton } from './carton-label';
export { drawCartonLabelsTask, drawPickListTask } from './warehouse-papers';
export { drawStatementTask, type ToldStatement } from './statement-paper';
export { drawReceiptTask, receiptPdf, type ToldReceipt } from './receipt-paper';
export { invoiceName, type ToldInvoicePaper } from './invoice-paper';
export { packingListName, packingListPdf, type ToldPackingList, type ToldPickList } from './packing-paper';
export { reviseAcknowledgement, storePackingList, storePaper, storePurchasePaper } from './store-paper';
