export {
  changedLines,
  decideRelease,
  type ChangedLine,
  type Release,
  type ReleaseFacts,
  type ReleaseLine,
  type SeenLine,
  type UnroutedLine,
} from './decide-release';
export { releaseDifferences, type Difference, type WouldBePromised } from './release-differences';
export {
  beyondNeed,
  bookAfterCancel,
  decideCancel,
  givenUp,
  type BoundToLine,
  type CancelDecision,
  type CancellableLine,
  type CancelWish,
  type LineCut,
} from './decide-cancel';
export { decideRaise, raisedStock, type RaisableLine, type RaiseDecision, type RaiseFacts } from './decide-raise';
export { unpicked } from './unpicked';
export { openQuantity, type LineQuantities } from './open-quantity';
export { cutLine, type Cut, type CutResult, type OpenLine } from './cut-line';
export { meetPromises, shipLine, type LeavingLine, type PromisedDay } from './ship-line';
export { readQuickLine, type QuickLine } from './quick-line';
export { beyondLeft, draftLine, soldUnits, type DraftLine, type DraftLineResult, type LineFault, type SoldItem } from './draft-line';
export { alternativeFault, decideNewLines, placeFault, type DraftFacts, type NewLine, type NewLineWish, type WishFault } from './new-lines';
export { howSure, USUALLY_SURE, type Sureness, type SupplyInfo } from './how-sure';
export { spokenOrder, type ToldLine } from './spoken-order';
export { linePromise, type LinePromise, type SchedulePart } from './line-promise';
export { shipmentsPlanned, type Departure } from './shipments-planned';
export { dropMoves, type DroppedChange, type DroppedMove } from './drop-moves';
export { nextCarrierDay, requestedShipDay, type Asked } from './requested-day';
export {
  isPricedAt,
  offeredPrice,
  WhatIf,
  type AgreedPrice,
  type BookSlice,
  type LineTried,
  type LineWish,
  type OfferedPrice,
  type WhatIfResult,
} from './what-if';
export {
  asOrderText,
  numberReadings,
  ORDER_COLUMNS,
  readOrderTable,
  readOrderText,
  singular,
  writtenForms,
  type DaySaid,
  type OrderColumn,
  type OrderTable,
  type OrderText,
  type TextLine,
  type TextRest,
  type Understood,
} from './text';
export { lifeAsked, type LifeAsked } from './life-asked';
export { collisions, type Collision, type FieldValue, type FieldValues } from './merge-change';
export { add as addCostPart, costOfParts, peggedParts, shownParts, type CostPart, type Waits } from './line-cost';
export {
  acceptQuote,
  isExpired,
  LOST_REASONS,
  openOf,
  closedLineWords,
  quoteStanding,
  type AcceptanceResult,
  type LostReason,
  type Quote,
  type QuotedLine,
  type Taken,
} from './quote';
export { letterFor, type Letter, type LetterFacts } from './letter';
