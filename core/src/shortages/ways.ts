import { type UnitPrice, compareDecimal, divide, lineAmount, minus, plus, sum, times } from '../money';
import type { IsoDay } from '../calendar';
import { arrival, dropShip, specialOrder, surplusCostOf } from './bought-ways';
import { assemble, substitute, transfer } from './inside-ways';
import type { Remark } from './remark';
import type { Leaving } from './route';
import type { Shortage } from './shortage';
import { costFor, join, purchaseQuantity, type SupplierOffer } from './supplier-terms';
import { type Way, byDay, COST_DECIMALS, firstOf, given, sumsOf, way } from './way';

/** Every way there is for a shortage; see the kinds of a route. */
export function waysFor(shortage: Shortage): Way[] {
  const { offers, transfers = [], substitutes = [], assembly = null, mayWait = true } = shortage;
  return [
    ...(mayWait ? [backorder(shortage)] : []),
    ...offers.map((offer) => specialOrder(shortage, offer)),
    ...offers.filter((offer) => offer.dropShips).map((offer) => dropShip(shortage, offer)),
    ...transfers.map((offer) => transfer(shortage, offer)),
    ...(assembly ? [assemble(shortage, assembly)] : []),
    ...substitutes.map((offer) => substitute(shortage, offer)),
    cut(shortage),
  ];
}

/** On the day known supply comes, and for what it never gives on the day of the next purchase. */
function backorder(shortage: Shortage): Way {
  const { inbound } = shortage;
  const next = nextPurchase(shortage);
  return way(sumsOf(inbound.days), null, null, (quantity) => {
    const known = firstOf(inbound.days, quantity);
    const covered = sum(known.map((entry) => entry.quantity));
    const rest = minus(quantity, covered);
    const waits = compareDecimal(rest, '0') > 0;
    const leaves: Leaving[] = known.map(({ day, quantity: part }) => ({ day, quantity: part }));
    const remarks: Remark[] = [];
    // What waits is bought as a purchase of its own would be: its minimum, its lots and its freight are no cheaper for waiting.
    const bought = waits && next ? join(rest, next.offer) : null;
    if (bought && next) {
      leaves.push({ day: next.day, quantity: rest });
      remarks.push({ kind: 'next_purchase', quantity: rest, day: next.day, supplier: next.offer.name });
      if (compareDecimal(bought.surplus, '0') > 0 && compareDecimal(bought.buys, '0') > 0)
        remarks.push({ kind: 'buys_more', buys: bought.buys, surplus: bought.surplus });
      if (compareDecimal(bought.freight, '0') > 0) remarks.push({ kind: 'freight', amount: lineAmount('1', bought.freight, shortage.currency) });
    } else if (waits) remarks.push({ kind: 'no_day', quantity: rest });
    else remarks.push({ kind: 'covered' });
    const holds = Math.min(100, ...known.map((entry) => entry.holds ?? 100), ...(waits && next ? [next.holds] : []));
    const safeDays = [...known.map((entry) => (entry.safeDay === undefined ? entry.day : entry.safeDay)), ...(waits && next ? [next.safeDay] : [])];
    // No cost of its own: it is what is due costs, or stock, or the next purchase.
    const due = sum(known.map((entry) => times(entry.quantity, entry.unitCost ?? shortage.unitCost)));
    const cost = plus(due, bought ? plus(times(rest, bought.unitCost), bought.freight) : times(rest, shortage.unitCost));
    return given(shortage, {
      kind: 'backorder',
      label: waits ? 'Backorder: next purchase' : 'Backorder: inbound supply',
      quantity,
      leaves: byDay(leaves),
      cost,
      unitCost: divide(cost, quantity, COST_DECIMALS),
      holds,
      safeDay: lastOf(safeDays),
      unbought: waits,
      surplusCost: bought ? surplusCostOf(bought) : 0,
      remarks,
    });
  });
}

/** The supplier who would bring it soonest, the cheapest of these. */
function nextPurchase(shortage: Shortage) {
  let best: { readonly offer: SupplierOffer; readonly day: IsoDay; readonly holds: number; readonly safeDay: IsoDay | null; readonly cost: UnitPrice } | null =
    null;
  for (const offer of shortage.offers) {
    const { day, holds, safeDay } = arrival(shortage, offer);
    const cost = costFor(purchaseQuantity(shortage.quantity, offer), offer);
    if (!best || day < best.day || (day === best.day && compareDecimal(cost, best.cost) < 0)) best = { offer, day, holds, safeDay, cost };
  }
  return best;
}

/** The last of some days; null where one of them is not known. */
function lastOf(days: readonly (IsoDay | null)[]): IsoDay | null {
  return days.reduce<IsoDay | null>((last, day) => (last === null || day === null ? null : day > last ? day : last), days[0] ?? null);
}

function cut(shortage: Shortage): Way {
  return way([], null, null, (quantity) =>
    given(shortage, {
      kind: 'cut',
      label: 'Cancel the shortfall',
      quantity,
      leaves: [],
      unitCost: '0',
      obliges: [{ kind: 'consent', to: 'less' }],
      remarks: [{ kind: 'less_to_bill', amount: lineAmount(quantity, shortage.unitPrice, shortage.currency) }],
    }),
  );
}
