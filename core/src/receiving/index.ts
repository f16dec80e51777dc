export { decideReceipt, goesTo, receivedLines, sumByLine, type Receipt, type ReceivedLine } from './decide-receipt';
export { lotKey, type Arrival, type AwaitedLine, type ReceiptFacts, type ReceiptFault } from './receipt-facts';
