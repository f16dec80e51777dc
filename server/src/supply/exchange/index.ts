export { ExchangeFolder, keepGoing } from './exchange-folder';
export { loadStandIn } from './set-stand-in';
export { SupplierStandIn, type StandInSettings } from './stand-in';
