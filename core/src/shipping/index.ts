export { despatchLetter, type DespatchFacts } from './despatch-letter';
export { decideLeave, type LeaveFacts, type LeaveFault, type PackedCarton } from './decide-leave';
export { afterMissedDay } from './miss-day';
export { leaveWords } from './leave-words';
export { decideScan, stillMissing, type PickPart, type ScanDecision, type ScanFacts, type ScannedItem, type ScanRefusal } from './scanned';
export { scanWords } from './scan-words';
export { shortWords, type ShortFacts, type ShortReason } from './short-words';
export { whyNotGoing, type DueLine, type DueOrder, type NotGoing } from './not-going';
export { dueRun, stoppedBy, tryRules, USUAL_RULES, type PickRules, type PickStop, type RuledOrder } from './pick-rules';
