export { settleLabel } from './label-job';
export { mountShipping } from './routes';
export { hearNews, setCarrierUrls } from './tracking';
