import type { LineId, OrderId } from '@nockwright/core/ids';
import { savepoint } from '../locks';
import type { ConsentOutcome, ConsentAnswer, ConsentView, ConsentWish, RouteWish } from '@nockwright/contract/shortages';
import { dayByName } from '@nockwright/core/calendar';
import { compareDecimal, least, minus, sum } from '@nockwright/core/money';
import { recordEvent } from '../events';
import { loadFirm } from '../firm';
import type { CommandContext } from '../http/context';
import { invalid, notFound, Refusal } from '../http/refusal';
import { LINK_PLACE } from '../links';
import { lockOrder, orderLabel, touchOrder } from '../orders';
import { allWays, policyOf, shortageOf } from '@nockwright/core/routing';
import { chosenRoute, type Route } from '@nockwright/core/shortages';
import { chooseRoute } from './choose-route';
import { loadRoutingFacts } from './load-facts';
import { readConsent } from './read-consents';

/**
 * Asks the customer about a way for a line: by mail with a link that works once, or to be asked by phone. Nothing is done
 * before they say yes; the goods they would get are not kept for them.
 */
export async function askCustomer(context: CommandContext, orderId: OrderId, lineId: LineId, wish: ConsentWish): Promise<ConsentView> {
  const { trx, now, user } = context;
  const order = await lockOrder(trx, orderId);
  if (order.state !== 'draft' && order.state !== 'released') throw new Refusal('conflict', `${orderLabel(order)} is ${order.state}.`);
  const line = await trx.selectFrom('order_line').select(['id', 'line_no', 'item']).where('id', '=', lineId).where('order_id', '=', orderId).executeTakeFirst();
  if (!line) throw notFound(`line ${lineId} on this order`);
  if (wish.answerBy < now.today) throw invalid('body.answerBy', `${wish.answerBy} has passed`);
  const open = await trx.selectFrom('consent_request').select('id').where('line_id', '=', lineId).where('state', '=', 'open').executeTakeFirst();
  if (open) throw new Refusal('conflict', `The customer has been asked about line ${line.line_no} already: record the answer, or withdraw the question.`);
  const { id } = await trx
    .insertInto('consent_request')
    .values({
      order_id: orderId,
      line_id: lineId,
      quantity: sum(wish.parts.map((part) => part.quantity)),
      parts: JSON.stringify(wish.parts),
      question: wish.question,
      day: (await routeNow(context, lineId, wish.parts))?.shipDay ?? null,
      on_no: wish.onNo,
      state: 'open',
      answer_by: wish.answerBy,
      by_mail: wish.recipients.length > 0,
      asked_at: now.instant,
      asked_by: user.id,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  if (wish.recipients.length > 0) await mailQuestion(context, orderId, id, wish, order.number ?? `draft ${orderId}`);
  await touchOrder(context, orderId);
  await recordEvent(context, {
    kind: 'customer.asked',
    facts: { lineNo: line.line_no, item: line.item, recipients: wish.recipients, parts: wish.parts },
    why: wish.question,
    after: { parts: wish.parts, answerBy: wish.answerBy, onNo: wish.onNo },
    subjects: [
      { kind: 'order', key: orderId },
      { kind: 'customer', key: order.customer_id },
    ],
  });
  return readConsent(trx, now, id);
}

async function mailQuestion(context: CommandContext, orderId: OrderId, id: number, wish: ConsentWish, label: string): Promise<void> {
  const { trx, now, user, jobs } = context;
  const body = [
    wish.question,
    `Please answer here, until ${dayByName(wish.answerBy, now.today)}:`,
    LINK_PLACE,
    'The page asks only this one question, and the link works once. You can just as well ring us.',
    `${user.name}\n${(await loadFirm(trx)).name}`,
  ].join('\n\n');
  const mail = await trx
    .insertInto('mail')
    .values({
      order_id: orderId,
      request_id: id,
      document_id: null,
      recipients: [...new Set(wish.recipients)],
      subject: `A question about your order ${label}`,
      body,
      made_at: now.instant,
      made_by: user.id,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await jobs.send(trx, 'mail', { mail: mail.id });
}

/** Records what the customer said on the phone, and acts on it. */
export async function answerByPhone(context: CommandContext, id: number, answer: ConsentAnswer): Promise<ConsentView> {
  await answerConsent(context, id, answer, 'phone');
  return readConsent(context.trx, context.now, id);
}

/**
 * Acts on an answer: what the customer takes is routed as they were asked; what they do not take is cut, or comes up to be
 * routed otherwise. An answer that cannot be acted on any more is kept, and comes up as work. Refused where the question
 * is not open.
 */
export async function answerConsent(context: CommandContext, id: number, { answer, taken, note = '' }: ConsentAnswer, how: 'link' | 'phone'): Promise<void> {
  const { trx, now, user } = context;
  const known = await trx.selectFrom('consent_request').select('order_id').where('id', '=', id).executeTakeFirst();
  if (!known) throw notFound(`question ${id}`);
  const order = await lockOrder(trx, known.order_id);
  const asked = await trx.selectFrom('consent_request').selectAll().where('id', '=', id).forNoKeyUpdate().executeTakeFirstOrThrow();
  if (asked.state !== 'open')
    throw new Refusal('conflict', asked.state === 'withdrawn' ? 'This question was withdrawn.' : 'This question has been answered already.');
  const takes = answer === 'accept' ? asked.quantity : answer === 'refuse' ? '0' : (taken ?? '0');
  if (answer === 'part' && (compareDecimal(takes, '0') <= 0 || compareDecimal(takes, asked.quantity) >= 0))
    throw invalid('body.taken', `expected more than 0 and less than the ${asked.quantity} asked about, got ${taken ?? 'nothing'}`);
  const accepted = firstOf(asked.parts, takes);
  const rest = minus(asked.quantity, takes);
  const cut: RouteWish[] = compareDecimal(rest, '0') > 0 && asked.on_no === 'cancel' ? [{ kind: 'cut', quantity: rest }] : [];
  await trx
    .updateTable('consent_request')
    .set({
      state: answer === 'accept' ? 'accepted' : answer === 'refuse' ? 'refused' : 'part',
      answered_at: now.instant,
      answered_by: user.id || null,
      answered_how: how,
      taken: takes,
      note,
    })
    .where('id', '=', id)
    .execute();
  await recordEvent(context, {
    kind: 'customer.answered',
    facts: { answer, taken: takes, quantity: asked.quantity, how },
    why: note,
    before: asked.parts,
    after: { answer, taken: takes },
    subjects: [
      { kind: 'order', key: asked.order_id },
      { kind: 'customer', key: order.customer_id },
    ],
  });
  const parts = [...accepted, ...cut];
  const { line_id: line } = asked;
  const by = accepted.length > 0 && asked.day !== null ? { by: asked.day } : {};
  const failed =
    parts.length > 0 && line !== null ? await attempt(context, () => chooseRoute(context, asked.order_id, line, { parts, agreed: true, ...by })) : null;
  // They agreed to a day: where it cannot be kept any more they are asked again, not told later that it was done.
  if (failed !== null && line !== null && asked.day !== null) await askAgain(context, asked, line, accepted);
  const owed = compareDecimal(rest, '0') > 0 && asked.on_no === 'reroute';
  const outcome: ConsentOutcome = { done: failed === null ? parts : [], owed: failed === null && owed ? rest : null, failed };
  await trx
    .updateTable('consent_request')
    .set({ outcome: JSON.stringify(outcome), needs_work: failed !== null || owed })
    .where('id', '=', id)
    .execute();
  await touchOrder(context, asked.order_id);
}

/** The route that some ways are for a line now; null where they are none any more. */
async function routeNow({ trx, now }: CommandContext, lineId: LineId, parts: readonly RouteWish[]): Promise<Route | null> {
  const facts = await loadRoutingFacts(trx, now, [lineId]);
  const line = facts.lines.get(lineId)!;
  const shortage = shortageOf(facts, allWays(facts), line, sum(parts.map((part) => part.quantity)));
  const found = chosenRoute({ ...shortage, mayWait: true }, parts, policyOf(facts, line).policy);
  return found.ok ? found.route : null;
}

interface Asked {
  readonly id: number;
  readonly order_id: OrderId;
  readonly day: string | null;
  readonly question: string;
  readonly on_no: 'cancel' | 'reroute';
}

/** Asks anew, by phone, about a way that leaves later than the customer has agreed to. Nothing where it leaves in time, or not at all. */
async function askAgain(context: CommandContext, asked: Asked, lineId: LineId, parts: readonly RouteWish[]): Promise<void> {
  const { trx, now } = context;
  const route = await routeNow(context, lineId, parts);
  if (!route?.possible || route.shipDay === null || route.shipDay <= asked.day!) return;
  const quantity = sum(parts.map((part) => part.quantity));
  await trx
    .insertInto('consent_request')
    .values({
      order_id: asked.order_id,
      line_id: lineId,
      quantity,
      parts: JSON.stringify(parts),
      question: `You agreed to ${dayByName(asked.day!, now.today)}. That day cannot be kept any more: ${quantity} would leave ${dayByName(route.shipDay, now.today)}. May we send them then?`,
      day: route.shipDay,
      on_no: asked.on_no,
      state: 'open',
      answer_by: now.today,
      asked_at: now.instant,
      asked_by: (await trx.selectFrom('consent_request').select('asked_by').where('id', '=', asked.id).executeTakeFirstOrThrow()).asked_by,
    })
    .execute();
}

/** Takes a question back, or sets an answer aside that somebody has dealt with. */
export async function withdrawConsent(context: CommandContext, id: number): Promise<ConsentView> {
  const { trx, now } = context;
  const known = await trx.selectFrom('consent_request').select('order_id').where('id', '=', id).executeTakeFirst();
  if (!known) throw notFound(`question ${id}`);
  await lockOrder(trx, known.order_id);
  const asked = await trx.selectFrom('consent_request').selectAll().where('id', '=', id).forNoKeyUpdate().executeTakeFirstOrThrow();
  await trx
    .updateTable('consent_request')
    .set({ needs_work: false, ...(asked.state === 'open' ? { state: 'withdrawn' as const } : {}) })
    .where('id', '=', id)
    .execute();
  await touchOrder(context, asked.order_id);
  await recordEvent(context, {
    kind: asked.state === 'open' ? 'question.withdrawn' : 'answer.seen',
    facts: {},
    before: { question: asked.question },
    subjects: [{ kind: 'order', key: asked.order_id }],
  });
  return readConsent(trx, now, id);
}

/** The first so many of what was asked about. */
function firstOf(parts: readonly RouteWish[], quantity: string): RouteWish[] {
  const taken: RouteWish[] = [];
  let missing = quantity;
  for (const part of parts) {
    if (compareDecimal(missing, '0') <= 0) break;
    const some = least(missing, part.quantity);
    taken.push({ ...part, quantity: some });
    missing = minus(missing, some);
  }
  return taken;
}

/** Does it, or leaves everything as it was before it and tells why it could not be done. */
async function attempt({ trx }: CommandContext, run: () => Promise<unknown>): Promise<string | null> {
  const before = await savepoint(trx, 'attempt');
  try {
    await run();
    await before.keep();
    return null;
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    await before.back();
    const { errors, message } = error;
    return (errors.length > 0 ? errors.map((fault) => fault.message).join('; ') : message).slice(0, 1000);
  }
}
