export { FILL, proposeCartons, type CartonKind, type CartonPlan, type PackGoods, type ProposedCarton, type Size } from './propose-cartons';
export { weightFault } from './scale';
