export { coveredBy, leftOf, offerLabel, offerPrice, type ContractOffer, type ContractQuestion, type ContractRules, type ContractTerms } from './contract-offer';
export { NO_CONTRACTS, priceLine, priceParts, type LinePrice, type PricedPart } from './price-line';
export type { PriceBreak, PricePin, PriceQuestion, PriceStep, SoldUnit } from './price-question';
export { costOfOne, isCovered, perStockingUnit, type SoldAt } from './approval';
export { bestBreak, cheaperInList, type ListedPrice } from './cheaper';
export {
  headChangesInWords,
  priceChanges,
  priceChangesInWords,
  termChangesInWords,
  type ContractHead,
  type PriceChange,
  type PriceOf,
  type TermsOf,
} from './change-words';
export { inUnit } from './in-unit';
export { afterLines, type LineBefore } from './lines-before';
export { markUpOf, marginOf, belowFloor } from './margin';
export {
  readContractLines,
  readPrices,
  writeContractLines,
  writePrices,
  type SheetFault,
  type SheetLine,
  type SheetPrice,
  type SheetRead,
} from './price-sheets';
