export { fromStockingUnits, SAME_UNIT, toStockingUnits, type UnitRatio } from './ratio';
export { readUnit } from './read-unit';
export { isInSteps, stepFault } from './step';
export { quantityInWords, UNIT_CODES, unitName, type UnitCode } from './unit-codes';
