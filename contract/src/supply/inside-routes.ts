import type { AssemblyId, ItemCode, TransferLineId, TransferId, WarehouseCode } from '@nockwright/core/ids';
import { assembly, inside, transfer } from './inside-views';
import { supplyRipple } from './purchase-views';
import { accepting, decision } from '../promise';
import { awaited, code, day, flag, get, history, id, integer, list, note, object, oneOf, optional, post, put, quantity, ROLES, text } from '../shape';

const transferId = object({ transfer: id<TransferId>() });
const assemblyId = object({ assembly: id<AssemblyId>() });
const hands = ['coordinator', 'warehouse', 'manager'] as const;
const buyers = ['coordinator', 'manager'] as const;

export const insideRoutes = {
  listInside: get('/inside', {
    roles: ROLES,
    summary: 'Transfers between warehouses and assemblies, what is due first',
    query: object({ state: optional(oneOf('open', 'all')) }),
    reply: list(inside),
  }),
  createTransfer: post('/transfers', {
    summary: 'Have free goods brought from one warehouse to another',
    roles: buyers,
    body: object({ from: code(), to: code(), lines: list(object({ item: code<ItemCode>(), quantity: quantity() }), 1, 100) }),
    reply: transfer,
  }),
  createAssembly: post('/assemblies', {
    summary: 'Have an item put together from free goods',
    roles: buyers,
    body: object({ item: code<ItemCode>(), warehouse: code<WarehouseCode>(), quantity: quantity() }),
    reply: assembly,
  }),
  transferHistory: get('/transfers/{transfer}/history', {
    roles: ROLES,
    summary: 'What happened to a transfer, newest first',
    params: transferId,
    reply: history,
  }),
  assemblyHistory: get('/assemblies/{assembly}/history', {
    roles: ROLES,
    summary: 'What happened to an assembly, newest first',
    params: assemblyId,
    reply: history,
  }),
  readTransfer: get('/transfers/{transfer}', { roles: ROLES, summary: 'A transfer between warehouses', params: transferId, reply: transfer }),
  shipTransfer: post('/transfers/{transfer}/ship', {
    summary: 'The goods leave for the other warehouse',
    roles: hands,
    params: transferId,
    body: object({ version: integer() }),
    reply: transfer,
  }),
  receiveTransfer: post('/transfers/{transfer}/receive', {
    summary: 'Take in what has come; with closeRest what has not is lost, and promises made on it move as decided, or wait again',
    roles: hands,
    params: transferId,
    body: object({
      version: integer(),
      lines: list(
        object({
          line: id<TransferLineId>(),
          /** Fit to be sold. */
          quantity: awaited(),
          /** Goes into quarantine, and is awaited no more. */
          damaged: optional(quantity()),
          bin: optional(note(40)),
          /** As they were scanned or typed, where the item has them: one for each piece. */
          serials: optional(note(20_000)),
        }),
        1,
        200,
      ),
      closeRest: optional(flag()),
      decision: optional(decision),
    }),
    reply: transfer,
  }),
  previewTransferReceipt: get('/transfers/{transfer}/receipt', {
    roles: ROLES,
    summary: 'Whose promises would move by what has come in of a transfer, line by line: `12:5` sound, or `12:5:1` with one damaged',
    params: transferId,
    query: object({ lines: text(4000), closeRest: optional(flag()), accept: accepting }),
    reply: supplyRipple,
  }),
  previewTransferChange: get('/transfers/{transfer}/change', {
    summary: 'Whose promises another day of a transfer would move, or less of it: what is still to come by line, as `12:5,13:0`',
    params: transferId,
    query: object({ day: optional(day()), lines: optional(text(4000)), accept: accepting }),
    reply: supplyRipple,
  }),
  changeTransfer: put('/transfers/{transfer}', {
    summary: 'Another day for a transfer, or less of it while it has not left; with a decision, move the promises that were seen to move',
    roles: buyers,
    params: transferId,
    body: object({
      version: integer(),
      expectedDay: optional(day()),
      /** What is still to come of a line. */
      lines: optional(list(object({ line: id<TransferLineId>(), open: awaited() }), 0, 200)),
      note: optional(note(300)),
      decision: optional(decision),
    }),
    reply: transfer,
  }),
  cancelTransfer: post('/transfers/{transfer}/cancel', {
    summary: 'Take a transfer back that has not left; promises made on it move as decided, or wait again',
    roles: buyers,
    params: transferId,
    body: object({ version: integer(), reason: text(300), decision: optional(decision) }),
    reply: transfer,
  }),
  readAssembly: get('/assemblies/{assembly}', { roles: ROLES, summary: 'An assembly with its components', params: assemblyId, reply: assembly }),
  buildAssembly: post('/assemblies/{assembly}/build', {
    summary: 'Book what was put together: components are used up, the goods are on the shelf',
    roles: hands,
    params: assemblyId,
    body: object({ version: integer(), quantity: quantity(), /** Of what was put together, where it has them. */ serials: optional(note(20_000)) }),
    reply: assembly,
  }),
  previewAssemblyChange: get('/assemblies/{assembly}/change', {
    summary: 'Whose promises another day of an assembly would move, or fewer of it (open; 0: all is given up)',
    params: assemblyId,
    query: object({ day: optional(day()), open: optional(awaited()), accept: accepting }),
    reply: supplyRipple,
  }),
  changeAssembly: put('/assemblies/{assembly}', {
    summary: 'Another day for an assembly, or fewer of it; with a decision, move the promises that were seen to move',
    roles: buyers,
    params: assemblyId,
    body: object({
      version: integer(),
      expectedDay: optional(day()),
      /** How many are still to assemble. */
      open: optional(awaited()),
      note: optional(note(300)),
      decision: optional(decision),
    }),
    reply: assembly,
  }),
  cancelAssembly: post('/assemblies/{assembly}/cancel', {
    summary: 'Give an assembly up; components go back to the shelf, promises made on it move as decided, or wait again',
    roles: buyers,
    params: assemblyId,
    body: object({ version: integer(), reason: text(300), decision: optional(decision) }),
    reply: assembly,
  }),
};
