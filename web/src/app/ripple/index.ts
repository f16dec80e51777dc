export { previewOf, QUANTITY } from './preview';
export { Ripple } from './ripple';
export { decisionOf, isGain, moveInWords, rippleInWords, toneOf } from './ripple-words';
