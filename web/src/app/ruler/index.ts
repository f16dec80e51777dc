export { MoveRow } from './move-row';
export { RulerHead } from './ruler-head';
export { RulerRow, type RulerPart } from './ruler-row';
export { rulerScale, type RulerScale } from './scale';
