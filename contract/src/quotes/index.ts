export { quoteRoutes } from './quotes';
