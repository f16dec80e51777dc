export { Ripple } from './ripple';
export { decisionOf, moveInWords, rippleInWords } from './ripple-words';
