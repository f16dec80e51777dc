export { checkNamed, type NamedPieces } from './check-named';
export { heldSerials, holdSerial, letSerialGo, pickSerials, type HeldSerial } from './hold-serials';
export { loadSerials, loadWheres, nameBySerial, whereOf, whereWordsOf, type SerialRow } from './load-serials';
export { bringSerialsBack, packSerial, shipSerials, unpackSerials } from './pack-serials';
export { placeSerials, type PlacedSerials } from './place-serials';
export { mountSerials } from './routes';
export { takeSerials } from './take-serials';
