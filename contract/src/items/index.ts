export { itemRoutes, type ItemFound, type ItemPage, type ItemRow, type PoolView, type TimelineStep } from './items';
