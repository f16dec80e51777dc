export { ExchangeFolder, keepGoing } from './exchange-folder';
export { loadStandIn } from './set-stand-in';
export { SupplierStandIn, type StandInSettings } from './stand-in';
export { readMessageTask } from './take-answer';
