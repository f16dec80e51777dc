export {
  pricingRoutes,
  type ContractBuyer,
  type ContractLineView,
  type ContractLineWish,
  type ContractRow,
  type ContractView,
  type PriceListRow,
  type PriceListView,
  type PriceRow,
} from './pricing';
