export { movesNobody, Preview, QUANTITY } from './preview';
export { Ripple } from './ripple';
export { RippleForm, type Settled } from './ripple-form';
export { decisionOf, isGain, linesHurt, moveInWords, rippleInWords, toneOf } from './ripple-words';
