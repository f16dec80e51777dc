export { settleLabel } from './label-job';
export { releasePicks } from './release-picks';
export { mountShipping } from './routes';
export { hearNews, setCarrierUrls } from './tracking';
