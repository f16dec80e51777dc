export { LINK_PLACE, makeToken, readToken } from './answer-link';
