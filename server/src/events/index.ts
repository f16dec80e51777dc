export { changedSince } from './changed-since';
export { LiveFeed } from './live-feed';
export { lastOnItem, readHistory } from './read-history';
export { notify, recordEvent, recordEvents, type Happening } from './record-event';
export { LIVE_CHANNEL } from './record-event';
