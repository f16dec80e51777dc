import type { ItemCode, WarehouseCode } from '../ids';
import type { Quantity } from '../money';
import type { IsoDay } from '../calendar';
import { afterLines, type LineBefore, type LinePrice } from '../pricing';
import type { UnitRatio } from '../units';
import { draftLine, type DraftLineResult, type QuantityWish, type SoldItem } from './draft-line';

/** A line that is to be added to a draft. */
export interface NewLineWish extends Omit<QuantityWish, 'pin'> {
  readonly item: ItemCode;
  readonly requestedDay?: IsoDay | null;
  readonly warehouse?: WarehouseCode;
  readonly note?: string;
  /** Another address than the order's; null: the order's. */
  readonly shipTo?: number | null;
  /** Of a quote: offered beside the others, perhaps instead of one of them. */
  readonly alternative?: boolean;
  readonly alternativeTo?: number | null;
}

/** What decides about lines that are added to a draft. */
export interface DraftFacts {
  readonly kind: 'order' | 'quote';
  /** Where its lines leave from and go to, where they say nothing else. */
  readonly warehouse: WarehouseCode;
  readonly shipTo: number;
  /** The lines it has, in their sequence. */
  readonly lines: readonly (LineBefore & { readonly id: number; readonly lineNo: number; readonly alternative: boolean })[];
  readonly warehouses: readonly string[];
  /** Addresses of its customer. */
  readonly shipTos: readonly number[];
  /** Items as they are sold to an address, by address. */
  readonly sold: ReadonlyMap<number, readonly SoldItem[]>;
}

/** A line as it is added: a part of what was wished for where a contract covers only a part of it. */
export interface NewLine {
  readonly lineNo: number;
  readonly item: ItemCode;
  readonly unit: string;
  readonly ratio: UnitRatio;
  readonly quantity: Quantity;
  readonly stockQuantity: Quantity;
  readonly price: LinePrice;
  readonly warehouse: WarehouseCode;
  readonly requestedDay: IsoDay | null;
  readonly note: string;
  readonly shipTo: number | null;
  readonly alternative: boolean;
  readonly alternativeTo: number | null;
}

/** What is wrong with a wish: which one, and its field; '' is the wish as a whole. */
export interface WishFault {
  readonly at: number;
  readonly field: 'item' | 'unit' | 'quantity' | 'shipTo' | 'warehouse' | 'requestedDay' | 'alternative' | 'alternativeTo' | '';
  readonly message: string;
}

export const MOST_LINES = 500;

/**
 * The lines that wishes add to the end of a draft, one behind the other: what one takes of a contract the next does not have.
 * All or none: of each wish that cannot be, the first thing that is wrong.
 */
export function decideNewLines(
  facts: DraftFacts,
  wishes: readonly NewLineWish[],
  today: IsoDay,
): { readonly ok: true; readonly lines: readonly NewLine[] } | { readonly ok: false; readonly faults: readonly WishFault[] } {
  const before: LineBefore[] = [...facts.lines];
  const lines: NewLine[] = [];
  const faults: WishFault[] = [];
  for (const [at, wish] of wishes.entries()) {
    const fault = addressFault(facts, wish);
    const item = facts.sold.get(wish.shipTo ?? facts.shipTo)?.find((row) => row.code === wish.item);
    const drafted = draftOf(item, wish, before, today);
    const wrong = fault ?? (drafted.ok ? (placeFault(facts, wish, today) ?? alternativeFault(facts, wish)) : drafted.fault);
    if (wrong || !drafted.ok) {
      faults.push({ at, ...wrong! });
      continue;
    }
    const { unit, ratio, parts } = drafted.line;
    if (before.length + parts.length > MOST_LINES) {
      faults.push({ at, field: '', message: `an order has at most ${MOST_LINES} lines` });
      continue;
    }
    for (const part of parts) {
      lines.push({
        lineNo: before.length + 1,
        item: wish.item,
        unit,
        ratio,
        ...part,
        warehouse: wish.warehouse ?? facts.warehouse,
        requestedDay: wish.requestedDay ?? null,
        note: wish.note ?? '',
        shipTo: wish.shipTo ?? null,
        alternative: wish.alternative ?? false,
        alternativeTo: wish.alternativeTo ?? null,
      });
      const { contractLine } = part.price;
      const contract = item!.contracts.offers.find((offer) => offer.id === contractLine)?.contract.id ?? null;
      // An alternative takes nothing of a contract.
      before.push({ contractLine: wish.alternative ? null : contractLine, contract, stockQuantity: part.stockQuantity });
    }
  }
  return faults.length > 0 ? { ok: false, faults } : { ok: true, lines };
}

type Fault = Omit<WishFault, 'at'>;

function draftOf(
  item: SoldItem | undefined,
  wish: NewLineWish,
  before: readonly LineBefore[],
  today: IsoDay,
): DraftLineResult | { readonly ok: false; readonly fault: Fault } {
  if (!item) return { ok: false, fault: { field: 'item', message: `there is no item ${wish.item}` } };
  return draftLine({ ...item, contracts: afterLines(item.contracts, before) }, wish, today);
}

function addressFault({ shipTos }: DraftFacts, { shipTo }: NewLineWish): Fault | null {
  return !shipTo || shipTos.includes(shipTo) ? null : { field: 'shipTo', message: `${shipTo} is no address of this customer` };
}

/** Refuses a warehouse there is not and a requested day that has passed. */
export function placeFault(
  { warehouses }: Pick<DraftFacts, 'warehouses'>,
  { warehouse, requestedDay }: Pick<NewLineWish, 'warehouse' | 'requestedDay'>,
  today: IsoDay,
): { readonly field: 'warehouse' | 'requestedDay'; readonly message: string } | null {
  if (warehouse !== undefined && !warehouses.includes(warehouse))
    return { field: 'warehouse', message: `there is no warehouse ${warehouse}; there are ${warehouses.join(', ')}` };
  if (requestedDay && requestedDay < today) return { field: 'requestedDay', message: `${requestedDay} has passed; expected ${today} or later` };
  return null;
}

/** Alternatives stand on quotes only; what one may be taken instead of is another line of the quote, and no alternative itself. `line`: the one that changes. */
export function alternativeFault(
  {
    kind,
    lines,
  }: { readonly kind: DraftFacts['kind']; readonly lines: readonly { readonly id: number; readonly lineNo: number; readonly alternative: boolean }[] },
  { alternative, alternativeTo }: Pick<NewLineWish, 'alternative' | 'alternativeTo'>,
  line?: number,
): { readonly field: 'alternative' | 'alternativeTo'; readonly message: string } | null {
  if ((alternative || alternativeTo) && kind !== 'quote') return { field: 'alternative', message: 'only a quote has alternatives' };
  if (!alternativeTo) return null;
  const other = lines.find((row) => row.id === alternativeTo);
  if (!other || other.id === line) return { field: 'alternativeTo', message: `${alternativeTo} is no other line of this quote` };
  return other.alternative ? { field: 'alternativeTo', message: `line ${other.lineNo} is an alternative itself` } : null;
}
