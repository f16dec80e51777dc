export { leave } from './ship';
export { loadFree } from './load-places';
export { loadNamed } from './load-scanned';
export { startPick } from './start-pick';
export { settleLabel, sweepLabels } from './label-job';
export { releasePicks } from './release-picks';
export { mountShipping } from './routes';
export { hearNews, setCarrierUrls } from './tracking';
