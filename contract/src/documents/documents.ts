import type { OrderId } from '@nockwright/core/ids';
import { orderView } from '../orders';
import { content, get, id, object, post, remove, text } from '../shape';

const order = object({ order: id<OrderId>() });
const DESK = ['coordinator', 'manager'] as const;

/** The most a file may have that is attached to an order. */
export const MOST_FILE_BYTES = 5 * 1024 * 1024;

export const documentRoutes = {
  makeProForma: post('/orders/{order}/pro-forma', {
    summary: 'Make a pro forma invoice of an order or a quote as it stands; it is kept as it was told',
    roles: DESK,
    params: order,
    reply: orderView,
  }),
  readPaper: get('/papers/{paper}', {
    summary: 'A paper as it was told: quote, acknowledgement or pro forma',
    params: object({ paper: id() }),
    media: 'application/pdf',
  }),
  attachFile: post('/orders/{order}/files', {
    summary: 'Attach a file: PDF, picture, text, mail, spreadsheet or letter, at most 5 MB; what it is is read from its content',
    roles: DESK,
    params: order,
    body: object({ name: text(120), content: content(MOST_FILE_BYTES) }),
    reply: orderView,
  }),
  readFile: get('/files/{file}', {
    summary: 'A file of an order, to be saved: it is never opened as a page',
    params: object({ file: id() }),
    media: 'application/octet-stream',
  }),
  removeFile: remove('/orders/{order}/files/{file}', {
    summary: 'Take a file off an order that was mailed to nobody',
    roles: DESK,
    params: object({ order: id<OrderId>(), file: id() }),
    reply: orderView,
  }),
};
