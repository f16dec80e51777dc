export { shippingRoutes, type LeavingRow, type MissedReply, type NotGoingRow, type PickView, type ReadyOrder, type ShippingBoard } from './shipping';
export { consignmentRoutes, pickRoutes } from './consignment-routes';
export type {
  CartonTypeView,
  CartonView,
  ConsignmentView,
  LabelView,
  OfferView,
  PartView,
  ProposalView,
  ScannedView,
  TrackedView,
  WalkView,
} from './consignment-views';
export { pickRuleRoutes, type PickRulesView, type PickTrial } from './pick-rules';
export { carrierRoutes, type CarrierView } from './carriers';
