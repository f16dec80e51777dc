import { EVENT_KINDS, eventWords, type EventKindName } from '@nockwright/contract/history';
import { sql } from 'kysely';
import type { Db } from '../src/database';
import { reconcile } from '../src/ledger';

/** What must hold of the books at any time; gives a sentence for everything that does not. */
export async function brokenInvariants(db: Db): Promise<string[]> {
  const checks: readonly (readonly [string, ReturnType<typeof sql<{ found: string }>>])[] = [
    [
      'on hand is received less shipped',
      sql`select s.item || '/' || s.warehouse as found from stock s where on_hand <> coalesce((select sum(quantity) from stock_movement m where m.item = s.item and m.warehouse = s.warehouse and m.status = 'available'), 0)`,
    ],
    [
      'what is on hand stands somewhere',
      sql`select s.item || '/' || s.warehouse as found from stock s where on_hand <> coalesce((select sum(quantity) from stock_place p where p.item = s.item and p.warehouse = s.warehouse and p.status = 'available'), 0)`,
    ],
    [
      'a place holds what was put there less what was taken',
      sql`select id::text as found from stock_place s where quantity <> coalesce((select sum(p.quantity) from stock_movement_place p where p.place_id = s.id), 0)`,
    ],
    [
      'damaged goods are in quarantine until somebody decides',
      sql`select l.id::text as found from purchase_line l where damaged <> coalesce((select sum(m.quantity) from stock_movement m join purchase_order p on p.id = l.purchase_id
        where m.kind = 'receipt' and m.status = 'quarantine' and m.reference = p.number || '/' || l.line_no), 0)
        union all select 'transfer ' || l.id from transfer_line l where damaged > lost or damaged <> coalesce((select sum(m.quantity) from stock_movement m
          join transfer_order t on t.id = l.transfer_id where m.kind = 'transfer' and m.status = 'quarantine' and m.reference = t.number || '/' || l.line_no), 0)`,
    ],
    [
      'committed is what is promised',
      sql`select s.item || '/' || s.warehouse as found from stock s where committed <> coalesce((select sum(p.quantity) from line_promise p join order_line l on l.id = p.line_id where l.item = s.item and l.warehouse = s.warehouse), 0)`,
    ],
    [
      'inbound is what is awaited',
      sql`select s.item || '/' || s.warehouse as found from stock s where inbound <> coalesce((select sum(quantity - received - closed) from purchase_line p where p.item = s.item and p.warehouse = s.warehouse and p.firm), 0)
        + coalesce((select sum(t.quantity - t.cancelled - t.received - t.lost) from transfer_line t join transfer_order o on o.id = t.transfer_id where t.item = s.item and o.to_warehouse = s.warehouse), 0)
        + coalesce((select sum(a.quantity - a.built - a.cancelled) from assembly_order a where a.parent_id is null and a.item = s.item and a.warehouse = s.warehouse), 0)`,
    ],
    [
      'set aside is what is being picked',
      sql`select s.item || '/' || s.warehouse as found from stock s where allocated <> coalesce((select sum(x.quantity) from shipment_line x join shipment h on h.id = x.shipment_id join order_line l on l.id = x.order_line_id where h.state = 'picking' and l.item = s.item and l.warehouse = s.warehouse), 0)`,
    ],
    [
      'what is kept on the shelf is what transfers and assemblies hold',
      sql`select s.item || '/' || s.warehouse as found from stock s where set_aside <>
        coalesce((select sum(t.quantity - t.cancelled - t.shipped) from transfer_line t join transfer_order o on o.id = t.transfer_id where t.item = s.item and o.from_warehouse = s.warehouse), 0)
        + coalesce((select sum(c.set_aside) from assembly_component c join assembly_order a on a.id = c.assembly_id where c.component = s.item and a.warehouse = s.warehouse), 0)
        + coalesce((select sum(h.quantity) from counter_hold h join stock_place p on p.id = h.place_id where p.item = s.item and p.warehouse = s.warehouse), 0)`,
    ],
    [
      'how late a supplier is goes by their newest receipts',
      sql`select supplier || ' ' || days as found from (
          select supplier, received_day - promised_day as days, count(*)::int as receipts
          from (select *, row_number() over (partition by supplier order by id desc) as age from supplier_receipt) r where age <= 400 group by 1, 2) counted
        full join supplier_lateness kept using (supplier, days, receipts) where counted is null or kept is null`,
    ],
    ['nothing is promised beyond supply', sql`select item || '/' || warehouse as found from stock where committed + set_aside > on_hand + inbound`],
    [
      'what is allocated of a bin and lot is what picks take from it',
      sql`select p.id::text as found from stock_place p where allocated <> coalesce((select sum(r.quantity) from pick_part r join shipment h on h.id = r.shipment_id
        where h.state = 'picking' and r.place_id = p.id), 0) + coalesce((select sum(quantity) from counter_hold k where k.place_id = p.id), 0)`,
    ],
    [
      'only what is in an open basket is held at the counter',
      sql`select h.id::text as found from counter_hold h join counter_basket b on b.order_id = h.order_id where b.state <> 'open'
        union all select l.id::text from order_line l join counter_basket b on b.order_id = l.order_id and b.state = 'open'
          where l.stock_quantity <> coalesce((select sum(h.quantity) from counter_hold h where h.line_id = l.id), 0)`,
    ],
    [
      'the parts of a shipment are what is in it',
      sql`select x.shipment_id || '/' || x.order_line_id as found from shipment_line x join shipment h on h.id = x.shipment_id
        where h.consignment_id is not null and x.quantity <> coalesce((select sum(r.quantity) from pick_part r where r.shipment_id = x.shipment_id and r.order_line_id = x.order_line_id), 0)`,
    ],
    [
      'cartons hold no more of a part than there is, and nothing of another consignment',
      sql`select r.id::text as found from pick_part r where r.quantity < coalesce((select sum(k.quantity) from carton_content k where k.part_id = r.id), 0)
        union all select k.carton_id::text from carton_content k join carton c on c.id = k.carton_id join pick_part r on r.id = k.part_id join shipment h on h.id = r.shipment_id
          where h.consignment_id <> c.consignment_id`,
    ],
    ['nothing leaves the shelf twice', sql`select item || '/' || warehouse as found from stock where allocated + set_aside > on_hand`],
    [
      'an open assembly has its components, or they are put together for it',
      sql`select a.id::text as found from assembly_order a join assembly_component c on c.assembly_id = a.id
        where a.state = 'open' and c.per_unit * (a.quantity - a.built - a.cancelled) > c.set_aside
          + coalesce((select sum(p.quantity - p.built - p.cancelled) from assembly_order p where p.parent_id = a.id and p.item = c.component), 0)`,
    ],
    [
      'what is bound to a line is for a line that lives',
      sql`select 'transfer ' || t.id as found from transfer_line t join order_line l on l.id = t.order_line_id where t.cancelled + t.received + t.lost < t.quantity and l.shipped + l.cancelled = l.stock_quantity
        union all select 'assembly ' || a.id from assembly_order a join order_line l on l.id = a.order_line_id where a.state = 'open' and l.shipped + l.cancelled = l.stock_quantity`,
    ],
    [
      'a route of a released line has led to something',
      sql`select r.id::text as found from line_route r join order_line l on l.id = r.line_id join sales_order o on o.id = l.order_id
        where o.state = 'released' and r.kind in ('special_order', 'drop_ship', 'transfer', 'assemble') and r.purchase_line_id is null and r.transfer_line_id is null and r.assembly_id is null`,
    ],
    [
      'what only lifts a draft is for nobody, and one for an item',
      sql`select purchase_id::text as found from purchase_line where lifts group by purchase_id, item having count(*) > 1 or count(order_line_id) > 0`,
    ],
    [
      'shipped is what left',
      sql`select l.id::text as found from order_line l where shipped <> coalesce((select sum(x.quantity) from shipment_line x join shipment h on h.id = x.shipment_id where h.state = 'shipped' and x.order_line_id = l.id), 0)`,
    ],
    [
      'a line is shipped, cancelled, promised, dropped or waiting, and no more',
      sql`select l.id::text as found from order_line l where shipped + cancelled
        + coalesce((select sum(quantity) from line_promise where line_id = l.id), 0)
        + coalesce((select sum(quantity - received - closed) from purchase_line where order_line_id = l.id and warehouse is null), 0) > stock_quantity`,
    ],
    [
      'a pick takes no more than is promised',
      sql`select l.id::text as found from order_line l where coalesce((select sum(x.quantity) from shipment_line x join shipment h on h.id = x.shipment_id where h.state = 'picking' and x.order_line_id = l.id), 0) > coalesce((select sum(quantity) from line_promise where line_id = l.id), 0)`,
    ],
    [
      'a bound purchase line points to a living order line',
      sql`select p.id::text as found from purchase_line p join order_line l on l.id = p.order_line_id where p.received + p.closed < p.quantity and l.shipped + l.cancelled = l.stock_quantity`,
    ],
    [
      'used of a contract is what released orders bought under it',
      sql`select c.id::text as found from contract_line c where used <> coalesce((select sum(l.stock_quantity - l.cancelled) from order_line l join sales_order o on o.id = l.order_id where l.contract_line_id = c.id and o.state = 'released'), 0)`,
    ],
    [
      'the list shows of an order what it is made of',
      sql`select o.id::text as found from sales_order o
        left join order_standing s on s.order_id = o.id
        cross join lateral (
          select count(*) as lines, coalesce(sum(round((stock_quantity - cancelled) * price * denominator / numerator, 2)), 0) as amount,
            count(*) filter (where shipped + cancelled < stock_quantity) as open,
            count(*) filter (where stock_quantity - shipped - cancelled > coalesce((select sum(quantity) from line_promise where line_id = l.id), 0)
              + coalesce((select sum(quantity - received - closed) from purchase_line where order_line_id = l.id and warehouse is null), 0)) as waiting,
            max((select max(day) from line_promise where line_id = l.id)) as promised
          from order_line l where l.order_id = o.id and not alternative) f
        where s.order_id is null or s.state <> o.state or s.lines <> f.lines or s.amount <> f.amount or s.open_lines <> f.open or s.waiting_lines <> f.waiting
          or (f.promised is not null and s.promised_day < f.promised)
          or s.held <> (o.state = 'draft' and exists (select from order_hold where order_id = o.id and cleared_at is null))
          or s.picking <> exists (select from shipment where order_id = o.id and state = 'picking')`,
    ],
    [
      'no number is left out',
      sql`select n::text as found from (select generate_series(min(number::int), max(number::int)) from sales_order where number ~ '^[0-9]+$') all_numbers(n)
        where not exists (select from sales_order where number = n::text)`,
    ],
    [
      'a place has no more serial numbers than goods',
      sql`select p.id::text as found from stock_place p where p.quantity < (select count(*) from item_serial s where s.place_id = p.id)`,
    ],
    [
      'a piece with a serial number is with the shipment it left with',
      sql`select s.item || ' ' || s.serial as found from item_serial s join shipment h on h.id = s.shipment_id where h.state <> 'shipped'
        union all select s.item || ' ' || s.serial from item_serial s join pick_part r on r.id = s.part_id join shipment h on h.id = r.shipment_id
          where h.state = 'shipped' and s.shipment_id is distinct from h.id`,
    ],
    [
      'no part has more serial numbers than pieces',
      sql`select r.id::text as found from pick_part r where r.quantity < (select count(*) from item_serial s where s.part_id = r.id)
        union all select k.part_id::text from carton_content k where k.quantity < (select count(*) from item_serial s where s.carton_id = k.carton_id and s.part_id = k.part_id)`,
    ],
    [
      'an invoice is what its lines and taxes come to',
      sql`select number as found from invoice i where issued_at is not null and (
          net <> (select sum(amount) from invoice_line where invoice_id = i.id)
          or tax <> (select sum(tax) from invoice_tax where invoice_id = i.id)
          or net <> (select sum(base) from invoice_tax where invoice_id = i.id))
        union all select i.number || '/' || l.line_no from invoice_line l join invoice i on i.id = l.invoice_id where l.amount <> round(l.quantity * l.price, 2)`,
    ],
    [
      'what is billed has left, each piece once',
      sql`select s.number as found from shipment s where s.invoice_id is not null and s.state <> 'shipped'
        union all select s.number from invoice_line l join shipment s on s.id = l.shipment_id where l.credits_id is null and s.invoice_id is distinct from l.invoice_id
        union all select x.shipment_id || '/' || x.order_line_id from shipment_line x join shipment s on s.id = x.shipment_id join order_line o on o.id = x.order_line_id
          join item i on i.code = o.item join invoice b on b.id = s.invoice_id and b.issued_at is not null
          where x.quantity <> (select coalesce(sum(case l.unit when o.unit then l.quantity * o.numerator / o.denominator else l.quantity end), 0) from invoice_line l
            where l.shipment_id = x.shipment_id and l.order_line_id = x.order_line_id and l.credits_id is null)`,
    ],
    [
      'no more is credited than was billed',
      sql`select b.id::text as found from invoice_line b where b.amount < (select coalesce(sum(amount), 0) from invoice_line where credits_id = b.id)`,
    ],
    [
      'what is settled is the sum of its settlements',
      sql`select number as found from invoice i where issued_at is not null and paid <> coalesce((select sum(amount) from settlement where invoice_id = i.id or credit_note_id = i.id), 0)
          + coalesce((select sum(amount) from refund where credit_note_id = i.id), 0)
        union all select 'payment ' || id from payment p where applied <> coalesce((select sum(amount) from settlement where payment_id = p.id and kind = 'payment'), 0)
          + coalesce((select sum(amount) from refund where payment_id = p.id), 0)
        union all select 'payment ' || id from payment where reversed_at is not null and applied <> 0`,
    ],
    [
      'numbers of invoices and credit notes have no gap',
      sql`select s.name as found from number_series s where s.name in ('invoice', 'credit_note')
        and exists (select from invoice i where i.issued_at is not null and i.kind = s.name)
        and s.next <> (select min(substr(number, length(s.prefix) + 1)::int) + count(*) from invoice i where i.issued_at is not null and i.kind = s.name)`,
    ],
    [
      'numbers have no gaps',
      sql`select 'order ' || number as found from sales_order where state = 'released' and number::int >= (select next from number_series where name = 'order')`,
    ],
  ];
  const broken: string[] = [];
  for (const [rule, query] of checks) for (const { found } of (await query.execute(db)).rows) broken.push(`${rule}: ${found}`);
  for (const { name, rows } of (await reconcile(db)).checks)
    broken.push(...rows.map((row) => `${name}, ${row.label}: the ledger has ${row.ledger}, the books ${row.books}`));
  return [...broken, ...(await unreadableEvents(db))];
}

/** Events whose facts are not of the shape of their kind, or that read as nothing. */
async function unreadableEvents(db: Db): Promise<string[]> {
  const rows = await db.selectFrom('event').select(['id', 'kind', 'facts', 'what']).where('kind', 'is not', null).execute();
  return rows.flatMap(({ id, kind, facts, what }) => {
    const known = EVENT_KINDS[kind as EventKindName] as (typeof EVENT_KINDS)[EventKindName] | undefined;
    if (!known) return [`event ${id} is of no kind that is known: ${kind}`];
    const fault = known.facts.schema.validate(facts).error?.message;
    if (fault) return [`event ${id} (${kind}): ${fault}`];
    const words = eventWords({ kind, facts, what }, '2027-03-09');
    return /undefined|NaN|\[object|\d{4}-\d\d-\d\d/.test(words) || words.trim() === '' ? [`event ${id} (${kind}) reads “${words}”`] : [];
  });
}
