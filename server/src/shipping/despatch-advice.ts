import { writeShipmentAdvice } from '@nockwright/core/exchange';
import { minus, sum, type Quantity } from '@nockwright/core/money';
import { createHash } from 'node:crypto';
import type { CommandContext } from '../http/context';
import type { DespatchFactsRow } from './load-despatch';
import { expectedWeight, type Consignment } from './read-consignment';

interface Told {
  readonly shipments: Consignment['shipments'];
  readonly tracking: string;
  readonly arrives: string;
}

/** A despatch advice of a consignment as UBL 2.1: what is in which carton, with lots and serial numbers, and what is still owed. */
export function despatchAdvice(consignment: Consignment, facts: DespatchFactsRow, today: string, { shipments, tracking, arrives }: Told): string {
  const { cartons, parts, head } = consignment;
  const own = parts.filter((part) => shipments.some((row) => row.id === part.shipment));
  const inCartons = cartons.flatMap((carton) => carton.contents.map((row) => ({ ...row, sscc: carton.sscc })));
  const packed = (part: number) => sum(inCartons.filter((row) => row.part === part).map((row) => row.quantity));
  const loose = own.map((part) => ({ part: part.id, quantity: minus(part.quantity, packed(part.id)), serials: [] as readonly string[], sscc: '' }));
  const open = new Map(facts.follows.map((row) => [row.line, row.open]));
  return writeShipmentAdvice(
    {
      number: shipments.map((row) => row.number).join('+'),
      issueDay: today,
      note: '',
      orders: shipments.map((row) => ({ poNumber: row.po_number, number: row.order_number })),
      tracking,
      arrives,
      grossKilograms: sum(cartons.map((carton) => carton.weight ?? expectedWeight(carton, parts))),
      cartons: cartons.map((carton) => ({ sscc: carton.sscc, kilograms: carton.weight, type: carton.type })),
      lines: [...inCartons, ...loose.filter((row) => row.quantity !== '0')].flatMap(({ part: id, quantity, serials, sscc }) => {
        const part = own.find((row) => row.id === id);
        const shipment = shipments.find((row) => row.id === part?.shipment);
        if (!part || !shipment) return [];
        return [
          {
            order: shipment.po_number || shipment.order_number,
            lineNo: part.line_no,
            quantity,
            unit: part.unit,
            outstanding: open.get(part.line) ?? ('0' as Quantity),
            item: {
              description: part.description,
              buyersCode: part.their_item || part.item,
              sellersCode: part.item,
              ...(part.gtins[0] ? { gtin: part.gtins[0] } : {}),
            },
            lot: part.lot,
            expires: part.expires,
            serials,
            sscc,
          },
        ];
      }),
    },
    { name: facts.firm },
    { name: head.customer },
  );
}

/** Keeps a despatch advice as a file of the order, and sends it along with a mail. */
export async function attachAdvice({ trx, now, user }: CommandContext, mail: number, order: number, number: string, xml: string): Promise<void> {
  const content = Buffer.from(xml, 'utf8');
  const sha256 = createHash('sha256').update(content).digest('hex');
  const known = await trx.selectFrom('order_file').select('id').where('order_id', '=', order).where('sha256', '=', sha256).executeTakeFirst();
  const file =
    known ??
    (await trx
      .insertInto('order_file')
      .values({
        order_id: order,
        name: `despatch-advice-${number}.xml`,
        media: 'application/xml',
        size: content.length,
        sha256,
        content,
        added_at: now.instant,
        added_by: user.id,
      })
      .returning('id')
      .executeTakeFirstOrThrow());
  await trx.insertInto('mail_file').values({ mail_id: mail, file_id: file.id }).execute();
}
