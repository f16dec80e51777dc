export { TRACKED } from './tracked-words';
