export { previewOf, QUANTITY } from './preview';
export { Ripple } from './ripple';
export { RippleForm, type Settled } from './ripple-form';
export { decisionOf, isGain, moveInWords, rippleInWords, toneOf } from './ripple-words';
