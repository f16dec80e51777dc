export { Preview } from './preview';
export { Ripple } from './ripple';
export { RippleForm, type Settled } from './ripple-form';
export { decisionOf, isGain, linesHurt, moveInWords, movesNobody, rippleInWords, toneOf } from './ripple-words';
