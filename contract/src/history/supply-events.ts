import type { Quantity } from '@nockwright/core/money';
import { shortDay } from '@nockwright/core/calendar';
import { day, decimal, flag, integer, list, note, nullable, object, oneOf, optional, text, type Of } from '../shape';
import { toldWords } from './dealing';
import { event } from './kind';
import { finding, findingWords, type Finding } from './finding';
import { dayChange, goods, goodsWords, lineChange, lineChangeWords, lineRef, quantityChange } from './parts';

const SHORT_WORDS = { missing: 'missing', damaged: 'damaged', wrong_bin: 'not', no_lot: 'not found by that lot' } as const;
const TRACKED_WORDS = {
  picked_up: 'picked up by the carrier',
  in_transit: 'in transit',
  out_for_delivery: 'out for delivery',
  delivered: 'delivered',
  exception: 'could not be delivered',
} as const;

const purchase = { number: text() };
const purchaseLine = { ...purchase, ...lineRef };
const lineOfPurchase = ({ number, lineNo, item }: { readonly number: string; readonly lineNo: number; readonly item: string }) =>
  `purchase ${number} line ${lineNo} (${item})`;
const supplier = { supplier: text() };

/** Purchases, from draft to receipt. */
export const purchaseEvents = {
  'purchase.started': event(object({ ...purchase, ...supplier }), ({ number, supplier: from }) => `started purchase ${number} from ${from}`),
  'purchase.changed': event(object(purchase), ({ number }) => `changed the draft ${number}`),
  'purchase.stocked': event(object({ ...purchase, goods }), ({ number, goods: bought }) => `put ${goodsWords(bought)} to stock on the draft ${number}`),
  'purchase.struck': event(
    object({ ...purchase, item: text(), quantity: decimal<Quantity>(), beside: nullable(decimal()), ended: flag() }),
    ({ number, item, quantity, beside, ended }) =>
      `struck ${quantity} ${item}${beside === null ? '' : `, and ${beside} for stock beside,`} off the draft ${number}${ended ? ', which is empty now and cancelled' : ''}`,
  ),
  'purchase.freed': event(
    object({ ...purchase, item: text(), quantity: decimal<Quantity>() }),
    ({ number, item, quantity }) => `${quantity} ${item} of purchase ${number} are free for anyone`,
  ),
  'purchase.sent': event(object({ ...purchase, mailed: flag(), filed: flag() }), ({ number, ...how }) =>
    ['sent purchase', number, toldWords(how)].filter(Boolean).join(' '),
  ),
  'purchase.confirmed': event(object(purchase), ({ number }) => `purchase ${number} is confirmed as it was ordered`),
  'purchase.rescheduled': event(
    object({ ...purchaseLine, ...lineChange }),
    ({ due, open, cost, ...line }, today) => `${lineOfPurchase(line)} ${lineChangeWords({ due, open, cost }, today)}`,
  ),
  'purchase.closed': event(
    object({ ...purchaseLine, quantity: decimal<Quantity>() }),
    ({ quantity, ...line }) => `closed ${quantity} of ${lineOfPurchase(line)}`,
  ),
  'purchase.cancelled': event(
    object({ ...purchase, by: oneOf('us', 'supplier') }),
    ({ number, by }) => `purchase ${number} cancelled by ${by === 'us' ? 'us' : 'the supplier'}`,
  ),
  'purchase.received': event(
    object({ ...purchase, goods, damaged: goods }),
    ({ number, goods: sound, damaged }) =>
      `received ${goodsWords(sound) || 'nothing in good condition'} on purchase ${number}${damaged.length > 0 ? `; damaged, in quarantine: ${goodsWords(damaged)}` : ''}`,
  ),
  'drop_ship.shipped': event(
    object({ order: text(), shipment: text(), goods }),
    ({ order, shipment, goods: left }) => `supplier shipped ${goodsWords(left)} of order ${order} to the customer, shipment ${shipment}`,
  ),
  'day.missed': event(object({}), () => 'it missed its day of leaving'),
  'receipt.short': event(object({}), () => 'received short'),
  'reorder.set': event(object({}), () => 'set when and how much is bought'),
};

const messageWords = (message: string | undefined) => (message ? `, message ${message}` : '');

const decided = object({ answer: text(), ...supplier, purchase: text(), findings: optional(list(finding)) });
const foundWords = (findings: readonly Finding[] | undefined, today: string) =>
  findings && findings.length > 0 ? ` (${findings.map((row) => findingWords(row, today)).join('; ')})` : '';

/** What suppliers say by file. */
export const exchangeEvents = {
  'answer.taken': event(
    decided,
    ({ answer, supplier: of, purchase: number, findings }, today) => `accepted response ${answer} of ${of} to purchase ${number}${foundWords(findings, today)}`,
  ),
  'answer.declined': event(
    decided,
    ({ answer, supplier: of, purchase: number, findings }, today) =>
      `declined response ${answer} of ${of}: purchase ${number} stands as ordered${foundWords(findings, today)}`,
  ),
  'answer.came': event(
    object({ ...supplier, purchase: text(), said: oneOf('refused', 'as_ordered', 'otherwise'), message: optional(text()) }),
    ({ supplier: of, purchase: number, said, message }) =>
      `${said === 'refused' ? `${of} refused purchase ${number}` : `${of} acknowledged purchase ${number}${said === 'otherwise' ? ', not all as ordered' : ''}`}${messageWords(message)}`,
  ),
  'despatch.came': event(
    object({ ...supplier, purchase: text(), quantity: decimal<Quantity>(), lines: integer(1), message: optional(text()), tracking: optional(note()) }),
    ({ supplier: of, purchase: number, quantity, lines, message, tracking }) =>
      `${of} has sent ${quantity} of purchase ${number} in ${lines === 1 ? 'one line' : `${lines} lines`}${messageWords(message)}${tracking ? `, tracking ${tracking}` : ''}`,
  ),
  'despatch.unasked': event(
    object({ ...supplier, purchase: text(), message: optional(text()) }),
    ({ supplier: of, purchase: number, message }) => `${of} has shipped more of purchase ${number} than was still ordered${messageWords(message)}`,
  ),
  'file.failed': event(object({ name: text(400), ...supplier }), ({ name, supplier: of }) => `could not act on the file ${name} from ${of}`),
  'message.seen': event(object({ message: text(), ...supplier }), ({ message, supplier: of }) => `reviewed message ${message} from ${of}`),
  'stand_in.set': event(object({}), () => 'set how the stand-in for suppliers answers'),
};

/** Terms of suppliers. */
export const supplierEvents = {
  'supplier.changed': event(object(supplier), ({ supplier: name }) => `changed the terms of ${name}`),
  'supplier.sells': event(object({ ...supplier, item: text(), before: flag() }), ({ supplier: name, item, before }) =>
    before ? `${name} sells ${item} at other terms` : `${name} sells ${item} from now on`,
  ),
  'supplier.stops': event(object({ ...supplier, item: text() }), ({ supplier: name, item }) => `${name} does not sell ${item} any more`),
};

const less = list(object({ item: text(), open: decimal<Quantity>(), was: decimal() }));
const transferChange = { day: nullable(dayChange), less };
type TransferChange = Of<ReturnType<typeof object<typeof transferChange>>>;

/** `now expected Wed 17 Mar, was Wed 10 Mar; 4 JAR still expected, was 10`. */
export function transferChangeWords({ day: there, less: lines }: TransferChange, today: string): string {
  return [
    ...(there ? [`now expected ${shortDay(there.day, today)}, was ${shortDay(there.was, today)}`] : []),
    ...lines.map(({ open, was, item }) => `${open} ${item} still expected, was ${was}`),
  ].join('; ');
}

const assemblyChange = { day: nullable(dayChange), fewer: nullable(quantityChange) };
type AssemblyChange = Of<ReturnType<typeof object<typeof assemblyChange>>>;

/** `now done by Mon 15 Mar, was Tue 9 Mar; 2 to go, was 5`. */
export function assemblyChangeWords({ day: done, fewer }: AssemblyChange, today: string): string {
  return [
    ...(done ? [`now done by ${shortDay(done.day, today)}, was ${shortDay(done.was, today)}`] : []),
    ...(fewer ? [`${fewer.open} to go, was ${fewer.was}`] : []),
  ].join('; ');
}

/** Goods that move between warehouses, and what is assembled. */
export const insideEvents = {
  'transfer.started': event(
    object({ number: text(), from: text(), to: text(), goods }),
    ({ number, from, to, goods: moved }) => `transfer ${number} from ${from} to ${to}: ${goodsWords(moved)}`,
  ),
  'transfer.left': event(object({ number: text(), from: text() }), ({ number, from }) => `transfer ${number} left ${from}`),
  'transfer.cut': event(
    object({ number: text(), item: text(), quantity: decimal<Quantity>(), from: text() }),
    ({ number, item, quantity, from }) => `${quantity} of transfer ${number} (${item}) stay at ${from}`,
  ),
  'transfer.changed': event(
    object({ number: text(), ...transferChange }),
    ({ number, ...change }, today) => `transfer ${number}: ${transferChangeWords(change, today)}`,
  ),
  'transfer.cancelled': event(object({ number: text() }), ({ number }) => `transfer ${number} cancelled`),
  'transfer.received': event(object({ number: text(), goods, damaged: goods, closed: flag() }), ({ number, goods: sound, damaged, closed }) =>
    [
      `received ${goodsWords(sound) || 'nothing'} on transfer ${number}`,
      ...(damaged.length > 0 ? [`damaged, in quarantine: ${goodsWords(damaged)}`] : []),
      ...(closed ? ['remainder closed'] : []),
    ].join('; '),
  ),
  'assembly.started': event(
    object({ number: text(), quantity: decimal<Quantity>(), item: text(), warehouse: text() }),
    ({ number, quantity, item, warehouse }) => `assembly ${number}: ${quantity} ${item} at ${warehouse}`,
  ),
  'assembly.built': event(
    object({ number: text(), quantity: decimal<Quantity>(), item: text() }),
    ({ number, quantity, item }) => `assembled ${quantity} ${item}, assembly ${number}`,
  ),
  'assembly.changed': event(
    object({ number: text(), ...assemblyChange, as: nullable(object({ number: text(), day: day() })) }),
    ({ number, as: carried, ...change }, today) =>
      `assembly ${number}: ${assemblyChangeWords(change, today)}${carried ? `, as ${carried.number} is done by ${shortDay(carried.day, today)}` : ''}`,
  ),
  'assembly.cut': event(
    object({ number: text(), quantity: decimal<Quantity>(), item: text() }),
    ({ number, quantity, item }) => `cancelled ${quantity} of assembly ${number} (${item}); components returned to stock`,
  ),
  'pick.started': event(
    object({ number: text(), order: text(), warehouse: text(), goods }),
    ({ number, order, warehouse, goods: picked }) => `started pick ${number} of order ${order} at ${warehouse}: ${goodsWords(picked)}`,
  ),
  'counter.paid': event(
    object({ number: text(), method: oneOf('cash', 'card', 'account'), amount: text(30), currency: text(3) }),
    ({ number, method, amount, currency }) => `sold ${number} over the counter, ${amount} ${currency} ${method === 'account' ? 'on account' : `by ${method}`}`,
  ),
  'counter.mailed': event(object({ number: text(), to: text() }), ({ number, to }) => `mailed the receipt ${number} to ${to}`),
  'counter.dropped': event(object({}), () => 'dropped the basket at the counter'),
  'carrier.set': event(object({ carrier: text() }), ({ carrier }) => `set how the stand-in of ${carrier} behaves`),
  'pick_rules.set': event(object({ on: flag(), times: list(text()) }), ({ on, times }) =>
    on ? `set what is released to pick by itself, at ${times.join(', ')}` : 'set that nothing is released to pick by itself',
  ),
  'picks.released': event(
    object({ time: text(), picks: integer(), stopped: integer() }),
    ({ time, picks, stopped }) =>
      `${picks} ${picks === 1 ? 'pick' : 'picks'} released by the rules at ${time}; ${stopped} ${stopped === 1 ? 'order was' : 'orders were'} stopped`,
  ),
  'pick.short': event(
    object({ number: text(), item: text(), quantity: decimal<Quantity>(), bin: note(), lot: note(), why: oneOf('missing', 'damaged', 'wrong_bin', 'no_lot') }),
    ({ number, item, quantity, bin, lot, why }) =>
      `${quantity} ${item}${lot ? ` of lot ${lot}` : ''} ${SHORT_WORDS[why]} in bin ${bin || 'without a name'}, shipment ${number}`,
  ),
  'pick.cancelled': event(object({ number: text() }), ({ number }) => `returned pick ${number} to stock`),
  'shipment.left': event(object({ number: text(), goods }), ({ number, goods: left }) => `shipped ${goodsWords(left)}, shipment ${number}`),
  'shipment.undone': event(
    object({ number: text(), goods }),
    ({ number, goods: back }) => `undid shipment ${number}: ${goodsWords(back)} back in the warehouse`,
  ),
  'shipment.service': event(
    object({ number: text(), service: text(), was: text() }),
    ({ number, service, was }) => `shipment ${number} goes by ${service}, was ${was}`,
  ),
  'shipment.tracked': event(
    object({ number: text(), tracked: oneOf('picked_up', 'in_transit', 'out_for_delivery', 'delivered', 'exception'), place: note(), words: note() }),
    ({ number, tracked, place, words }) => `shipment ${number} ${TRACKED_WORDS[tracked]}${place ? ` in ${place}` : ''}${words ? `: ${words}` : ''}`,
  ),
};
