export { LiveFeed } from './live-feed';
export { readHistory } from './read-history';
export { recordEvent, type Happening } from './record-event';
