export { RulerHead } from './ruler-head';
export { RulerRow } from './ruler-row';
export { rulerScale, type RulerScale } from './scale';
