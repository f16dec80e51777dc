export { MoverRows, type MoverGroup } from './mover-rows';
export { Preview } from './preview';
export { Ripple } from './ripple';
export { RippleForm, type Settled } from './ripple-form';
export { decisionOf, isGain, linesHurt, movesNobody, rippleInWords } from './ripple-words';
export { SayTo } from './say-to';
