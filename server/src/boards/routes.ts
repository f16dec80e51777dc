import { promiseRoutes } from '@nockwright/contract/promise';
import type { Hono } from 'hono';
import type { Services } from '../http/context';
import { mountCommand, mountQuery } from '../http/mount';
import { readAccepted } from '../promise';
import { freshenBoards } from './keep-boards';
import { acceptOffers, listOffers } from './offers';

export function mountBoards(app: Hono, services: Services): void {
  mountQuery(app, services, promiseRoutes.listOffers, ({ db, now }, { query }) => listOffers(db, now, readAccepted(query.accept), query.most), freshenBoards);
  mountCommand(app, services, promiseRoutes.acceptOffers, (context, { body }) => acceptOffers(context, body.decision));
}
