export { changedSince } from './changed-since';
export { LiveFeed } from './live-feed';
export { lastOnItem, readHistory } from './read-history';
export { recordEvent, type Happening } from './record-event';
