export {
  decideReceipt,
  goesTo,
  lotKey,
  receivedLines,
  sumByLine,
  type Arrival,
  type AwaitedLine,
  type Receipt,
  type ReceiptFacts,
  type ReceiptFault,
  type ReceivedLine,
} from './decide-receipt';
