import { CARRIER_WEEK, deliveryDay } from '@nockwright/core/calendar';
import { compareDecimal, minus, sum } from '@nockwright/core/money';
import { despatchLetter, type DespatchFacts } from '@nockwright/core/shipping';
import { storePackingList } from '../documents';
import type { CommandContext } from '../http/context';
import { attachAdvice, despatchAdvice } from './despatch-advice';
import type { LockedShipment } from './lock-consignment';
import { loadDespatch, type DespatchFactsRow } from './load-despatch';
import { packingListOf } from './packing-list';
import type { Consignment } from './read-consignment';

/** Keeps the packing list as it left, and tells the customer by mail what has left and what still follows, where they have an address. */
export async function tellDespatch(
  context: CommandContext,
  consignment: Consignment,
  shipments: readonly LockedShipment[],
  tracking: string,
  mails: boolean,
): Promise<void> {
  const { trx, now, user, jobs } = context;
  const { head } = consignment;
  const facts = await loadDespatch(trx, head.id, [...new Set(shipments.map((row) => row.order_id))]);
  const paper = await storePackingList(context, head.id, packingListOf(consignment, facts, now.today, tracking));
  if (facts.email === '' || !mails) return;
  const { subject, text } = despatchLetter(
    {
      firm: facts.firm,
      contact: facts.contact,
      shipments: named(consignment, shipments),
      warehouse: facts.warehouse,
      service: head.service_name,
      tracking,
      link: consignment.label && head.carrier_url ? `${head.carrier_url}/track/${consignment.label.tracking}` : '',
      arrives: deliveryDay(now.today, facts.transit_days, CARRIER_WEEK),
      goods: goodsOf(consignment),
      follows: followsOf(facts),
      by: user.name,
    },
    now.today,
  );
  const { id } = await trx
    .insertInto('mail')
    .values({
      order_id: shipments[0]!.order_id,
      consignment_id: head.id,
      document_id: paper,
      recipients: [facts.email],
      subject,
      body: text,
      made_at: now.instant,
      made_by: user.id,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  if (head.takes_advices) {
    const own = consignment.shipments.filter((row) => shipments.some((left) => left.id === row.id));
    const arrives = deliveryDay(now.today, facts.transit_days, CARRIER_WEEK);
    await attachAdvice(
      context,
      id,
      shipments[0]!.order_id,
      own.map((row) => row.number).join('+'),
      despatchAdvice(consignment, facts, now.today, { shipments: own, tracking, arrives }),
    );
  }
  await jobs.send(trx, 'mail', { mail: id });
}

/** Tells a customer who was told that goods have left that they have not. Where the mail still waits it is not sent at all. */
export async function tellUndone(context: CommandContext, consignment: Consignment, shipments: readonly LockedShipment[]): Promise<void> {
  const { trx, now, user, jobs } = context;
  const last = await trx
    .selectFrom('mail')
    .select(['id', 'state', 'recipients'])
    .where('consignment_id', '=', consignment.head.id)
    .orderBy('id', 'desc')
    .limit(1)
    .executeTakeFirst();
  if (!last) return;
  const unsent = await trx
    .updateTable('mail')
    .set({ state: 'failed', fault: 'The shipment was undone before this mail was sent.' })
    .where('id', '=', last.id)
    .where('state', '=', 'waiting')
    .where('claimed_until', 'is', null)
    .executeTakeFirst();
  if (unsent.numUpdatedRows > 0n) return;
  const facts = await loadDespatch(trx, consignment.head.id, []);
  const numbers = shipments.map((row) => row.number).join(', ');
  const { id } = await trx
    .insertInto('mail')
    .values({
      order_id: shipments[0]!.order_id,
      consignment_id: consignment.head.id,
      document_id: null,
      recipients: last.recipients,
      subject: `Shipment ${numbers} has not left yet`,
      body: [
        facts.contact ? `Good day ${facts.contact},` : 'Good day,',
        `we told you that shipment ${numbers} has left. It is still in our warehouse ${facts.warehouse}. You hear from us as soon as it leaves.`,
        `Kind regards\n${user.name}\n${facts.firm}`,
      ].join('\n\n'),
      made_at: now.instant,
      made_by: user.id,
    })
    .returning('id')
    .executeTakeFirstOrThrow();
  await jobs.send(trx, 'mail', { mail: id });
}

function named({ shipments }: Consignment, left: readonly LockedShipment[]): DespatchFacts['shipments'] {
  return shipments
    .filter((row) => left.some(({ id }) => id === row.id))
    .map((row) => ({ number: row.number, order: row.order_number, poNumber: row.po_number }));
}

function goodsOf({ parts }: Consignment): DespatchFacts['goods'] {
  const items = [...new Set(parts.map((part) => part.item))];
  return items.map((item) => {
    const own = parts.filter((part) => part.item === item);
    const { unit, description, their_item: theirs } = own[0]!;
    return { quantity: sum(own.map((part) => part.quantity)), unit, item: theirs || item, description };
  });
}

/** What is still open, by promised day; the rest without one. */
function followsOf({ follows }: DespatchFactsRow): DespatchFacts['follows'] {
  return follows.flatMap(({ order, theirs, description, unit, open, promised }) => {
    const row = { order, item: theirs, description, unit };
    const rest = minus(open, sum(promised.map((part) => part.quantity)));
    return [
      ...promised.map(({ day, quantity }) => ({ ...row, day, quantity })),
      ...(compareDecimal(rest, '0') > 0 ? [{ ...row, day: null, quantity: rest }] : []),
    ];
  });
}
