/** The area's commands without its routes, for programs that act in the desk's place: demo data, tests, bench. */
export { cancelPick } from './cancel-pick';
export { settleLabel, sweepLabels } from './label-job';
export { closeCarton, openCarton, packProposed } from './pack';
export { releasePicks } from './release-picks';
export { readBoard } from './read-board';
export { readConsignment } from './read-consignment';
export { ship, shipConsignment } from './ship';
export { startPick } from './start-pick';
export { hearNews } from './tracking';
