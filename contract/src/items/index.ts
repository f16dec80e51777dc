export { itemRoutes, type ItemFound, type ItemPage, type ItemRow, type PoolView, type QueueRow, type TimelineStep } from './items';
