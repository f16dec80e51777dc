export { firmRoutes, type Firm, type NumberSeries } from './firm';
