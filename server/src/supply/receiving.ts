import type { ItemCode, WarehouseCode } from '@nockwright/core/ids';
import type { ExpectedRow, Scanned } from '@nockwright/contract/supply';
import { readScan } from '@nockwright/core/scans';
import { sql } from 'kysely';
import type { Now } from '../clock';
import { escapeLike, searchWords, type Db } from '../database';
import { invalid } from '../http/refusal';

const MOST = 200;

interface Due {
  readonly warehouse?: WarehouseCode;
  readonly search?: string;
}

/** What is due at a warehouse from suppliers and from other warehouses, what is due first first. */
export async function listExpected(db: Db, now: Now, { warehouse, search }: Due): Promise<ExpectedRow[]> {
  const matches = searchWords(search).map((word) => sql`and lower(d.number || ' ' || d.from || ' ' || d.items) like ${`%${escapeLike(word)}%`}`);
  const { rows } = await sql<Omit<ExpectedRow, 'expectedDay' | 'overdue'> & { expected_day: string }>`
    select * from (
      select 'purchase' as kind, p.id, p.number, s.name as "from", p.warehouse, min(l.expected_day)::text as expected_day, count(*)::int as lines,
        string_agg(distinct l.item, ', ' order by l.item) as items
      from purchase_order p join supplier s on s.code = p.supplier join purchase_line l on l.purchase_id = p.id
      where p.state in ('sent', 'acknowledged') and p.kind = 'stock' and l.received + l.closed < l.quantity
      group by p.id, s.name
      union all
      select 'transfer', t.id, t.number, w.name, t.to_warehouse, t.expected_day::text, count(*)::int, string_agg(distinct l.item, ', ' order by l.item)
      from transfer_order t join warehouse w on w.code = t.from_warehouse join transfer_line l on l.transfer_id = t.id
      where t.state = 'shipped' and l.received + l.lost < l.shipped
      group by t.id, w.name
    ) d
    where ${warehouse ? sql`d.warehouse = ${warehouse}` : sql`true`} ${sql.join(matches, sql` `)}
    order by d.expected_day, d.number
    limit ${MOST}`.execute(db);
  return rows.map(({ expected_day, ...row }) => ({ ...row, expectedDay: expected_day, overdue: expected_day < now.today }));
}

/**
 * What a scanned label or typed words mean at the dock: an item by its GTIN, our code or a supplier's, with lot, expiry
 * and count where the label says them; or the number of a document. Refused where a label is broken or means nothing.
 */
export async function readAtDock(db: Db, now: Now, text: string, warehouse?: WarehouseCode): Promise<Scanned> {
  const result = readScan(text, now.today);
  if (!result.ok) throw invalid('query.text', result.fault);
  const { scan } = result;
  const words = scan.plain ?? scan.order ?? '';
  const item = await db
    .selectFrom('item')
    .select(['code', 'description'])
    .where((eb) =>
      scan.gtin
        ? eb('gtin', '=', scan.gtin)
        : eb.or([
            eb('code', '=', words.toUpperCase()),
            eb.exists(
              eb.selectFrom('supplier_item').select('item').whereRef('supplier_item.item', '=', 'item.code').where('their_code', '=', words.toUpperCase()),
            ),
          ]),
    )
    .orderBy('code')
    .executeTakeFirst();
  const awaited = await awaitedFrom(db, item?.code ?? null, item ? '' : words, warehouse);
  if (!item && awaited.length === 0)
    throw invalid(
      'query.text',
      scan.gtin
        ? `no item has the number ${scan.gtin}`
        : `nothing that is expected is called ${words.slice(0, 60)}: scan a label, or type an item or an order number`,
    );
  return {
    item: item?.code ?? null,
    description: item?.description ?? '',
    lot: scan.lot ?? '',
    serial: scan.serial ?? '',
    expires: scan.expires ?? null,
    count: scan.count === undefined ? null : String(scan.count),
    awaited,
  };
}

/** Where an item, or what has a number, is expected from. */
async function awaitedFrom(db: Db, item: ItemCode | null, number: string, warehouse?: WarehouseCode): Promise<Scanned['awaited'][number][]> {
  const here = (column: string) => (warehouse ? sql`${sql.ref(column)} = ${warehouse}` : sql`true`);
  const means = (itemColumn: string, numberColumn: string) =>
    item === null ? sql`lower(${sql.ref(numberColumn)}) = ${number.toLowerCase()}` : sql`${sql.ref(itemColumn)} = ${item}`;
  const { rows } = await sql<Omit<Scanned['awaited'][number], 'expectedDay'> & { expected_day: string }>`
    select 'purchase' as kind, p.id, p.number, s.name as "from", case when ${item !== null}::boolean then l.id end as line,
      trim_scale(l.quantity - l.received - l.closed)::text as open, l.expected_day::text as expected_day
    from purchase_line l join purchase_order p on p.id = l.purchase_id join supplier s on s.code = p.supplier
    where p.state in ('sent', 'acknowledged') and p.kind = 'stock' and l.received + l.closed < l.quantity and ${here('p.warehouse')} and ${means('l.item', 'p.number')}
    union all
    select 'transfer', t.id, t.number, w.name, case when ${item !== null}::boolean then l.id end,
      trim_scale(l.shipped - l.received - l.lost)::text, t.expected_day::text
    from transfer_line l join transfer_order t on t.id = l.transfer_id join warehouse w on w.code = t.from_warehouse
    where t.state = 'shipped' and l.received + l.lost < l.shipped and ${here('t.to_warehouse')} and ${means('l.item', 't.number')}
    order by 7, 2, 5`.execute(db);
  return rows.map(({ expected_day, ...row }) => ({ ...row, expectedDay: expected_day }));
}
