import type { Amount, Quantity, UnitPrice } from '@nockwright/core/money';
import { shortDay } from '@nockwright/core/calendar';
import { ROUTE_KINDS, ROUTE_WORDS } from '@nockwright/core/shortages';
import { unitName } from '@nockwright/core/units';
import { day, decimal, flag, id, integer, list, note, nullable, object, oneOf, text } from '../shape';
import { dealing, dealingWords } from './dealing';
import { event } from './kind';
import {
  count,
  goodsInUnits,
  lineRef,
  lineWords,
  made,
  madeWords,
  orderRef,
  orderWords,
  partWords,
  routePart,
  schedule,
  scheduleWords,
  unitsWords,
} from './parts';

const draft = object({ id: id() });
const pricedPart = object({ quantity: decimal<Quantity>(), price: decimal<UnitPrice>(), source: text(300) });

/** Drafts, their lines, and orders from release to cancellation. */
export const orderEvents = {
  'draft.started': event(
    object({ kind: oneOf('order', 'quote'), id: id(), customer: text() }),
    ({ kind, id: number, customer }) => `started ${kind === 'quote' ? 'quote draft' : 'draft'} ${number} for ${customer}`,
  ),
  'draft.discarded': event(draft, ({ id: number }) => `discarded draft ${number}`),
  'draft.held': event(draft, ({ id: number }) => `held draft ${number}`),
  'hold.cleared': event(object({ order: orderRef, hold: note() }), ({ order, hold }) => `released the hold of ${orderWords(order)}: ${hold}`),
  'header.changed': event(draft, ({ id: number }) => `changed the header of draft ${number}`),
  'line.added': event(
    object({ ...lineRef, quantity: decimal<Quantity>(), unit: text(), price: decimal<UnitPrice>(), source: text(300) }),
    ({ lineNo, item, quantity, unit, price, source }) => `added line ${lineNo}: ${quantity} ${unitName(unit, quantity)} ${item} at ${price}, ${source}`,
  ),
  'line.changed': event(object({ lineNo: integer(1) }), ({ lineNo }) => `changed line ${lineNo}`),
  'line.moved': event(object({ ...lineRef, to: integer(1) }), ({ to, ...line }) => `moved ${lineWords(line)} to place ${to}`),
  'line.removed': event(
    object({ ...lineRef, quantity: decimal<Quantity>(), unit: text() }),
    ({ lineNo, item, quantity, unit }) => `removed line ${lineNo}: ${quantity} ${unitName(unit, quantity)} ${item}`,
  ),
  'line.raised': event(
    object({
      ...lineRef,
      quantity: decimal<Quantity>(),
      unit: text(),
      was: decimal(),
      price: nullable(object({ price: decimal<UnitPrice>(), source: text(300), was: decimal() })),
    }),
    ({ quantity, unit, was, price, ...line }) =>
      `${lineWords(line)} raised to ${quantity} ${unitName(unit, quantity)}, was ${was}${price ? `, at ${price.price} (${price.source}), was ${price.was}` : ''}`,
  ),
  'line.priced': event(
    object({ ...lineRef, parts: list(pricedPart), was: object({ price: decimal<UnitPrice>(), source: text(300) }) }),
    ({ parts, was, ...line }) => {
      const now = parts.map(({ quantity, price, source }) => `${quantity} at ${price}, ${source}`).join('; ');
      return `price of ${lineWords(line)}: ${now}, was ${was.price}, ${was.source}`;
    },
  ),
  'line.promised': event(
    object({ ...lineRef, schedule }),
    ({ schedule: days, ...line }, today) => `promised ${scheduleWords(days, today)} of ${lineWords(line)}`,
  ),
  'task.closed': event(object({ task: note(), how: note() }), ({ task, how }) => `closed the task “${task}”${how ? `: ${how}` : ''}`),
  'file.attached': event(object({ name: text(400) }), ({ name }) => `attached ${name}`),
  'file.removed': event(object({ name: text(400) }), ({ name }) => `removed ${name}`),
  'order.released': event(
    object({ number: text(), made }),
    ({ number, made: documents }) => `released order ${number}${documents.map((row) => `, ${row.kind} ${row.number} made`).join('')}`,
  ),
  'order.cancelled': event(
    object({ number: text(), cuts: list(object({ ...lineRef, quantity: decimal<Quantity>() })), dealt: list(dealing) }),
    ({ number, cuts, dealt }) =>
      [`cancelled ${cuts.map(({ quantity, ...line }) => `${quantity} of ${lineWords(line)}`).join(', ')} of order ${number}`, ...dealt.map(dealingWords)].join(
        '; ',
      ),
  ),
  'order.ranked': event(
    object({ number: text(), turn: nullable(object({ priority: integer(1, 9), was: integer(1, 9) })), ahead: nullable(text()) }),
    (facts) => `order ${facts.number} ${turnWords(facts)}`,
  ),
  'pro_forma.made': event(
    object({ order: orderRef, amount: decimal<Amount>(), currency: text() }),
    ({ order, amount, currency }) => `made a pro forma of ${orderWords(order)} over ${amount} ${currency}`,
  ),

  'quote.sent': event(
    object({ number: text(), revision: integer(1), validUntil: day() }),
    ({ number, revision, validUntil }, today) =>
      `sent quote ${number}${revision > 1 ? `, revision ${revision}` : ''}, valid until ${shortDay(validUntil, today)}`,
  ),
  'quote.revised': event(object({ number: text(), revision: integer(1) }), ({ number, revision }) => `began revision ${revision} of quote ${number}`),
  'quote.lost': event(object({ number: text(), reason: text() }), ({ number, reason }) => `quote ${number} was lost: ${reason.replaceAll('_', ' ')}`),
  'quote.accepted': event(
    object({ number: text(), rest: oneOf('none', 'closed', 'open'), draft: id(), lines: goodsInUnits }),
    ({ number, rest, draft: order, lines }) =>
      `quote ${number} was accepted${rest === 'none' ? '' : ` in part, the rest ${rest === 'closed' ? 'is closed' : 'stays open'}`}: draft ${order} with ${unitsWords(lines)}`,
  ),
};

/** Promises that move, and ways out of shortages. */
export const promiseEvents = {
  'promise.moved': event(object({ ...lineRef, before: schedule, holds: schedule }), ({ before, holds, ...line }, today) => {
    const words = (days: typeof holds) => scheduleWords(days, today) || 'backordered';
    return `promise of ${lineWords(line)} moved: ${words(holds)}, was ${words(before)}`;
  }),
  'promise.lost': event(
    object({ ...lineRef, quantity: decimal<Quantity>(), day: day() }),
    ({ quantity, day: on, ...line }, today) => `${quantity} of ${lineWords(line)} promised for ${shortDay(on, today)} lost their supply and wait again`,
  ),
  'promise.endangered': event(object({}), () => 'its goods come too late, or not at all'),
  'goods.freed': event(object({}), () => 'goods were freed'),
  'line.rerouted': event(object({}), () => 'the line is served another way'),
  'run.started': event(object({}), () => 'started to promise all orders again'),
  'run.stopped': event(object({}), () => 'stopped promising all orders again'),
  'run.accepted': event(object({ moves: integer() }), ({ moves }) => `accepted the new promises of all orders: ${count(moves, 'promise')} moved`),
  'confidence.set': event(object({ customer: nullable(text()), percent: nullable(integer(0, 100)) }), ({ customer, percent }) => {
    if (customer === null) return `the desk promises ${confidenceWords(percent)}`;
    return percent === null ? `promises to ${customer} are made as the desk’s are` : `promises to ${customer} are made ${confidenceWords(percent)}`;
  }),
  'routes.ranked': event(object({ policy: text() }), ({ policy }) => `options are ranked ${policy.replaceAll('_', ' ')}`),
  'routes.ranked_for': event(
    object({ customer: text(), policy: nullable(text()), asksWhenLate: flag() }),
    ({ customer, policy, asksWhenLate }) =>
      `options for ${customer} are ranked ${policy?.replaceAll('_', ' ') ?? 'as the desk ranks them'}; ${asksWhenLate ? 'asked' : 'not asked'} about a later day`,
  ),
  'route.planned': event(
    object({ ...lineRef, parts: list(routePart) }),
    ({ parts, ...line }) => `planned for ${lineWords(line)}: ${parts.map(partWords).join(', ')}`,
  ),
  'lines.routed': event(object({ lines: list(object({ ...lineRef, parts: list(routePart), dealt: list(dealing) })), made }), ({ lines, made: documents }) => {
    const routed = lines.map(({ parts, dealt, ...line }) => `${lineWords(line)}: ${[...parts.map(partWords), ...dealt.map(dealingWords)].join(', ')}`);
    return `routed ${[...routed, ...(documents.length > 0 ? [madeWords(documents)] : [])].join('; ')}`;
  }),
  'route.undone': event(
    object({ ...lineRef, kind: oneOf(...ROUTE_KINDS), quantity: decimal<Quantity>(), dealt: list(dealing) }),
    ({ kind, quantity, dealt, ...line }) =>
      `undid the ${ROUTE_WORDS[kind]} of ${quantity} of ${lineWords(line)}${dealt.length > 0 ? `: ${dealt.map(dealingWords).join('; ')}` : ''}`,
  ),
  'customer.asked': event(object({ ...lineRef, recipients: list(text()), parts: list(routePart) }), ({ recipients, parts, ...line }) => {
    const how = recipients.length > 0 ? `by mail to ${recipients.join(', ')}` : 'by phone';
    return `asked the customer about ${lineWords(line)} ${how}: ${parts.map(partWords).join(', ')}`;
  }),
  'customer.answered': event(
    object({ answer: text(), taken: nullable(decimal<Quantity>()), quantity: decimal<Quantity>(), how: oneOf('link', 'phone') }),
    ({ answer, taken, quantity, how }) => {
      const said = answer === 'accept' ? 'yes' : answer === 'refuse' ? 'no' : `to ${taken} of ${quantity}`;
      return `the customer said ${said}${how === 'link' ? ' over the link' : ' on the phone'}`;
    },
  ),
  'question.withdrawn': event(object({}), () => 'withdrew a question to the customer'),
  'answer.seen': event(object({}), () => 'closed the customer’s answer'),
  'customer.told': event(object({ ...lineRef, say: note() }), ({ say, ...line }) => `customer told about ${lineWords(line)}: ${say}`),
  'call.reopened': event(object(lineRef), (line) => `call about ${lineWords(line)} is to be made again`),
};

/** `set to priority 2, was 5`, `placed ahead of order 20417`. */
export function turnWords({
  turn,
  ahead,
}: {
  readonly turn: { readonly priority: number; readonly was: number } | null;
  readonly ahead: string | null;
}): string {
  return turn ? `set to priority ${turn.priority}, was ${turn.was}` : `placed ahead of order ${ahead}`;
}

export function confidenceWords(percent: number | null): string {
  return percent === null ? 'by the supplier’s day' : `with ${percent} % confidence`;
}
