import { accessRoutes } from '../access';
import { bankRoutes, invoiceRoutes, paymentRoutes } from '../billing';
import { counterRoutes } from '../counter';
import { customerRoutes } from '../customers';
import { documentRoutes } from '../documents';
import { exchangeRoutes } from '../exchange';
import { firmRoutes } from '../firm';
import { itemRoutes, serialRoutes, stockRoutes } from '../items';
import { ledgerRoutes } from '../ledger';
import { mailRoutes } from '../mail';
import { orderRoutes } from '../orders';
import { payableRoutes } from '../payables';
import { pricingRoutes } from '../pricing';
import { promiseRoutes } from '../promise';
import { quoteRoutes } from '../quotes';
import type { AnyRoute } from '../shape';
import { carrierRoutes, consignmentRoutes, pickRoutes, pickRuleRoutes, shippingRoutes } from '../shipping';
import { shortageRoutes } from '../shortages';
import { supplyRoutes } from '../supply';
import { worklistRoutes } from '../worklist';

/** Every route of the API, by area. */
export const API = {
  access: accessRoutes,
  firm: firmRoutes,
  customers: customerRoutes,
  items: itemRoutes,
  stock: stockRoutes,
  serials: serialRoutes,
  orders: orderRoutes,
  quotes: quoteRoutes,
  documents: documentRoutes,
  mail: mailRoutes,
  pricing: pricingRoutes,
  shortages: shortageRoutes,
  supply: supplyRoutes,
  shipping: shippingRoutes,
  picks: pickRoutes,
  pickRules: pickRuleRoutes,
  carriers: carrierRoutes,
  consignments: consignmentRoutes,
  counter: counterRoutes,
  invoices: invoiceRoutes,
  payments: paymentRoutes,
  bank: bankRoutes,
  ledger: ledgerRoutes,
  payables: payableRoutes,
  promise: promiseRoutes,
  worklist: worklistRoutes,
  exchange: exchangeRoutes,
} as const;

/** Every route with its area and name, for the server to mount and the OpenAPI page to list. */
export function allRoutes(): { readonly area: string; readonly name: string; readonly route: AnyRoute }[] {
  return Object.entries(API).flatMap(([area, routes]) => Object.entries(routes).map(([name, route]) => ({ area, name, route: route as unknown as AnyRoute })));
}
