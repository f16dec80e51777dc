export { exchangeRoutes, type Finding } from './exchange';
