export { cutLine, type Cut, type CutResult, type OpenLine } from './cut-line';
export { meetPromises, type PromisedDay } from './ship-line';
export { readQuickLine, type QuickLine } from './quick-line';
