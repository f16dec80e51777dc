export { Sounds } from './sounds';
export { TRACKED } from './tracked-words';
