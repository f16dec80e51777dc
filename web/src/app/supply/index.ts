export { Places } from './places';
export { SupplyNav } from './supply-nav';
