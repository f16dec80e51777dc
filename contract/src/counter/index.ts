export { counterRoutes, type BasketRow, type BasketView, type CounterScan } from './counter';
