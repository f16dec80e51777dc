import { pricingRoutes } from '@nockwright/contract/pricing';
import type { Hono } from 'hono';
import { readHistory } from '../events';
import type { Services } from '../http/context';
import { mountCommand, mountQuery } from '../http/mount';
import { changeContract, createContract, storeContractLines } from './edit-contract';
import { checkPriceList, listPriceLists, readPriceList, storePrices } from './price-lists';
import { listContracts, readContract } from './read-contract';

export function mountPricing(app: Hono, services: Services): void {
  mountQuery(app, services, pricingRoutes.listContracts, ({ db, now }, { query }) => listContracts(db, now, query));
  mountQuery(app, services, pricingRoutes.readContract, ({ db, now }, { params }) => readContract(db, now, params.contract));
  mountCommand(app, services, pricingRoutes.createContract, (context, { body }) => createContract(context, body));
  mountCommand(app, services, pricingRoutes.changeContract, (context, { params, body }) => changeContract(context, params.contract, body));
  mountCommand(app, services, pricingRoutes.storeContractLines, (context, { params, body }) => storeContractLines(context, params.contract, body));
  mountQuery(app, services, pricingRoutes.contractHistory, async ({ db, now }, { params }) => {
    await readContract(db, now, params.contract);
    return readHistory(db, 'contract', params.contract);
  });
  mountQuery(app, services, pricingRoutes.listPriceLists, ({ db }) => listPriceLists(db));
  mountQuery(app, services, pricingRoutes.readPriceList, ({ db }, { params }) => readPriceList(db, params.list));
  mountQuery(app, services, pricingRoutes.priceListHistory, async ({ db }, { params }) => {
    await checkPriceList(db, params.list);
    return readHistory(db, 'price_list', params.list);
  });
  mountCommand(app, services, pricingRoutes.storePrices, (context, { params, body }) => storePrices(context, params.list, body));
}
