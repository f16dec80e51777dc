import type { ItemCode, WarehouseCode } from '../ids';
import { type Quantity, compareDecimal, divide, minus, plus, times, type Decimal } from '../money';
import { freeNow, poolKey, requestedDayOf } from '../book';
import { calendarOf, dayNumber, firstShipDay, isoDay } from '../calendar';
import { decimal } from '../promise';
import {
  componentCost,
  inboundOf,
  mostAssembled,
  mostReplaced,
  type AssemblyOffer,
  type OpenDraft,
  type Shortage,
  type SubstituteOffer,
  type TransferOffer,
} from '../shortages';
import { ownPriceOf } from './price-instead';
import { feeKey, soldKey, type DraftPurchase, type RoutedLine, type RoutingFacts, type WaysLeft } from './routing-facts';
import { comingFor, mayWaitFor } from './short-of';

/** What is short of a line and all ways out, by what the lines before it have left. */
export function shortageOf(facts: RoutingFacts, left: WaysLeft, line: RoutedLine, quantity: Quantity): Shortage {
  const warehouse = facts.warehouses.get(line.warehouse)!;
  const { workdays, closed = [], receivingDays = 0 } = warehouse.book;
  const confidence = line.confidence ?? facts.desk.confidence;
  return {
    now: facts.time.localTime,
    quantity,
    requested: requestedDayOf(line, line),
    warehouse: { workdays, closed, receivingDays },
    transitDays: line.transit_days,
    unitPrice: unitPriceOf(line),
    unitCost: facts.items.get(line.item)!.cost,
    currency: line.currency,
    inbound: inboundOf(comingFor(facts, line), quantity),
    mayWait: mayWaitFor(facts, line, quantity),
    whole: line.ship_complete,
    asksWhenLate: line.asks_when_late,
    confidence: confidence === null ? null : confidence / 100,
    offers: (facts.offers.get(line.item) ?? []).map((offer) => ({
      ...offer,
      ...(left.joined.has(feeKey(line, offer.supplier)) ? { dropShipFee: '0' } : {}),
      draft: draftFor(left.drafts.get(`${offer.supplier}/${line.warehouse}`), line.item),
    })),
    transfers: transfersFor(facts, left, line),
    substitutes: substitutesFor(facts, left, line),
    assembly: assemblyFor(facts, left, line, quantity),
  };
}

/** What is free on the shelf of a warehouse of what things are made of. */
export function shelfAt({ book, warehouses, items }: RoutingFacts, { free }: WaysLeft, warehouse: WarehouseCode): Map<string, number> {
  const row = warehouses.get(warehouse)!;
  return new Map([...items.keys()].map((item) => [item, freeNow(book.live, free, { item, warehouse }, row)]));
}

/** Working days an assembly for a line takes, those of its parts included; null where it cannot be. */
export function assemblyDays(facts: RoutingFacts, left: WaysLeft, line: RoutedLine, quantity: Quantity): number | null {
  const step = mostAssembled(line.item, Number(quantity), facts.recipes, shelfAt(facts, left, line.warehouse));
  return step && step.quantity === Number(quantity) ? step.days : null;
}

function unitPriceOf(line: RoutedLine): Decimal {
  return divide(times(line.price, line.denominator), line.numerator, 6);
}

/** What a draft means for one item that would join it. */
function draftFor(draft: DraftPurchase | undefined, item: ItemCode): OpenDraft | null {
  if (!draft) return null;
  return { number: draft.number, value: draft.value, ...(draft.items.get(item) ?? { needed: '0', bought: '0' }) };
}

function transfersFor({ lanes, warehouses, book, items, time }: RoutingFacts, { free }: WaysLeft, line: RoutedLine): TransferOffer[] {
  return lanes
    .filter((lane) => lane.to_warehouse === line.warehouse)
    .flatMap((lane) => {
      const from = warehouses.get(lane.from_warehouse)!;
      const there = freeNow(book.live, free, { item: line.item, warehouse: lane.from_warehouse }, from);
      if (there <= 0) return [];
      return [
        {
          warehouse: from.code,
          name: from.name,
          free: decimal(there),
          leaves: firstShipDay(from.book, time.localTime),
          transitDays: lane.transit_days,
          unitCost: divide(times(items.get(line.item)!.weight, lane.cost_per_kg), '1', 4),
        },
      ];
    });
}

function substitutesFor(facts: RoutingFacts, { free }: WaysLeft, line: RoutedLine): SubstituteOffer[] {
  return (facts.substitutes.get(line.item) ?? []).flatMap(({ substitute, ratio, successor }) => {
    const item = facts.items.get(substitute)!;
    // In whole ones of both, day by day: nobody is sent half a tank.
    let [there, replaced] = ['0', '0'];
    const days = (free.get(poolKey({ item: substitute, warehouse: line.warehouse })) ?? []).flatMap(({ day, quantity }) => {
      there = plus(there, decimal(quantity));
      const most = mostReplaced(there, { ratio, step: item.step }, line.step);
      const more = minus(most, replaced);
      replaced = most;
      return compareDecimal(more, '0') > 0 ? [{ day, quantity: more }] : [];
    });
    if (days.length === 0) return [];
    const sold = facts.sold.get(soldKey(line, substitute));
    return [
      {
        item: substitute,
        description: item.description,
        successor,
        ratio,
        step: item.step,
        days,
        // The price agreed stands, or its own where that is lower: it is our shortage, not the customer's wish.
        unitPrice: unitPriceOf(line),
        ownPrice: (sent) => (sold ? ownPriceOf(sold, sent, facts.time.today) : null),
        unitCost: item.cost,
      },
    ];
  });
}

function assemblyFor(facts: RoutingFacts, left: WaysLeft, line: RoutedLine, quantity: Quantity): AssemblyOffer | null {
  const { recipes, items, warehouses, time } = facts;
  const recipe = recipes.get(line.item);
  if (!recipe) return null;
  const step = mostAssembled(line.item, Number(quantity), recipes, shelfAt(facts, left, line.warehouse));
  if (!step) return null;
  const warehouse = warehouses.get(line.warehouse)!.book;
  return {
    most: String(step.quantity),
    done: isoDay(calendarOf(warehouse).offset(dayNumber(firstShipDay(warehouse, time.localTime)), step.days)),
    unitCost: componentCost(line.item, recipes, new Map([...items].map(([code, { cost }]) => [code, cost]))),
    components: recipe.components.map((row) => `${row.quantity} ${row.item}`).join(', '),
  };
}
