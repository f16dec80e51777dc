export { mountFirm } from './routes';
export { loadCurrency, loadFirm, type FirmRecord } from './read-firm';
