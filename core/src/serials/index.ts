export { checkSerials, mayTake, whereWords, type SerialsChecked, type SerialWhere } from './check-serials';
export { readSerials, type SerialFault, type SerialsResult } from './read-serials';
