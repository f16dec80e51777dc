import { mailRoutes } from '@nockwright/contract/mail';
import type { Hono } from 'hono';
import type { Services } from '../http/context';
import { mountCommand, mountQuery } from '../http/mount';
import { listMail } from './list-mail';
import { mailPaper } from './mail-paper';
import { readPostOffice, setPostOffice } from './post-office';
import { messageReply, readMail } from './read-mail';
import { retryMail } from './retry-mail';

export function mountMail(app: Hono, services: Services): void {
  mountCommand(app, services, mailRoutes.mailPaper, (context, { params, body }) => mailPaper(context, params.order, body));
  mountQuery(app, services, mailRoutes.listMail, ({ db }, { query }) => listMail(db, query));
  mountQuery(app, services, mailRoutes.readMail, ({ db }, { params }) => readMail(db, params.mail));
  mountQuery(app, services, mailRoutes.readMessage, ({ db }, { params }) => messageReply(db, params.mail));
  mountCommand(app, services, mailRoutes.retryMail, (context, { params, body }) => retryMail(context, params.mail, body.recipients));
  mountQuery(app, services, mailRoutes.readPostOffice, async ({ db }) => ({ open: await readPostOffice(db) }));
  mountCommand(app, services, mailRoutes.setPostOffice, (context, { body }) => setPostOffice(context, body.open));
}
