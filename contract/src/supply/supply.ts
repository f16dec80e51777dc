import { exchangeFileRoutes } from './exchange';
import { insideRoutes } from './inside-routes';
import { purchaseRoutes } from './purchase-routes';
import { supplierRoutes } from './suppliers';

export const supplyRoutes = { ...exchangeFileRoutes, ...supplierRoutes, ...purchaseRoutes, ...insideRoutes };
