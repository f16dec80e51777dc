export { Places } from './places';
