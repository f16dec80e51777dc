import { daysBetween, leavesAgain } from '../src/calendar';
import { type RoutePolicy, type Shortage, supplierArrival, type SupplierOffer, supplierShipDay } from '../src/shortages';
import { solveIfPossible } from './solver';

/** More than any quantity or money in these programs. */
const BIG = 1_000;

/**
 * The best that can be made of a shortage with at most three ways, as an integer program for HiGHS, written from what the
 * ways mean and not from how they are searched: whole stocking units; a supplier's lots, minimum and breaks; a transfer's
 * and an assembly's end; consignments counted once by house and day; the policy's weights. Gives its worth. Nothing is cut
 * where everything can be served.
 */
export async function bestSplitWorth(shortage: Shortage, policy: RoutePolicy): Promise<number> {
  return (await worthOf(shortage, policy, false)) ?? (await worthOf(shortage, policy, true))!;
}

/** Null where there is no way to do it. */
async function worthOf(shortage: Shortage, policy: RoutePolicy, cuts: boolean): Promise<number | null> {
  const quantity = Number(shortage.quantity);
  const price = Number(shortage.unitPrice);
  /** What each variable brings; a name may stand only once in a program. */
  const gains = new Map<string, number>();
  const rows: string[] = [];
  const binaries = new Set<string>();
  const generals = new Set<string>();
  const used: string[] = [];
  const parts: string[] = [];
  const consignments = new Set<string>();

  const gain = (value: number, name: string) => gains.set(name, (gains.get(name) ?? 0) + value);
  const row = (text: string) => rows.push(` r${rows.length}: ${text}`);
  /** A way that is used or not, with its quantity. */
  const way = (name: string) => {
    used.push(`y${name}`);
    parts.push(`q${name}`);
    binaries.add(`y${name}`);
    generals.add(`q${name}`);
    row(`q${name} - ${quantity} y${name} <= 0`);
    row(`q${name} - y${name} >= 0`);
  };
  const consign = (house: string, day: string, when: string) => {
    const name = `s${house}${day.replaceAll('-', '')}`;
    consignments.add(name);
    binaries.add(name);
    row(`${name} - ${when} >= 0`);
  };
  const lateness = (day: string) => (policy.latePercent / 100) * Math.max(0, daysBetween(shortage.requested, day)) * price;

  // Waiting: what comes first is taken first; what never comes is not waited for here (no offers to buy from are given for it).
  if (shortage.inbound.days.length > 0) {
    way('B');
    shortage.inbound.days.forEach(({ day, quantity: most }, at) => {
      generals.add(`b${at}`);
      binaries.add(`z${at}`);
      row(`b${at} - ${most} z${at} <= 0`);
      row(`b${at} - z${at} >= 0`);
      if (at > 0) row(`b${at - 1} - ${shortage.inbound.days[at - 1]!.quantity} z${at} >= 0`);
      gain(price - Number(shortage.unitCost) - lateness(day), `b${at}`);
      consign('own', day, `z${at}`);
    });
    row(`qB - ${shortage.inbound.days.map((_, at) => `b${at}`).join(' - ')} = 0`);
  }
  const supplier = (name: string, offer: SupplierOffer, day: string, house: string, exact: boolean) => {
    way(name);
    const [minimum, multiple] = [Number(offer.minimum), Number(offer.multiple)];
    const lifted = multiple * Math.ceil(minimum / multiple);
    generals.add(`n${name}`);
    // What is bought: whole lots, at least the minimum, and no more than the need lifted to them.
    row(`l${name} - ${multiple} n${name} = 0`);
    row(`l${name} - ${lifted} y${name} >= 0`);
    row(`l${name} - q${name} >= 0`);
    binaries.add(`t${name}`);
    row(`l${name} - q${name} - ${lifted} t${name} <= ${multiple - 1}`);
    row(`l${name} + ${BIG} t${name} <= ${lifted + BIG}`);
    if (exact) row(`l${name} - q${name} = 0`);
    const levels = [{ from: '0', cost: offer.cost }, ...(offer.breaks ?? [])];
    levels.forEach(({ from, cost }, at) => {
      const level = `${name}${at}`;
      binaries.add(`p${level}`);
      row(`c${level} - ${BIG} p${level} <= 0`);
      row(`c${level} - ${from} p${level} >= 0`);
      row(`d${level} - ${BIG} p${level} <= 0`);
      gain(price - Number(cost) - lateness(day), `d${level}`);
      gain((-policy.surplusPercent / 100) * Number(cost), `c${level}`);
      gain((policy.surplusPercent / 100) * Number(cost), `d${level}`);
    });
    row(`${levels.map((_, at) => `p${name}${at}`).join(' + ')} - y${name} = 0`);
    row(`l${name} - ${levels.map((_, at) => `c${name}${at}`).join(' - ')} = 0`);
    row(`q${name} - ${levels.map((_, at) => `d${name}${at}`).join(' - ')} = 0`);
    if (exact) gain(-Number(offer.dropShipFee), `y${name}`);
    consign(house, day, `y${name}`);
  };
  shortage.offers.forEach((offer, at) => {
    supplier(`S${at}`, offer, leavesAgain(supplierArrival(shortage.now, offer), shortage.warehouse), 'own', false);
    if (offer.dropShips) supplier(`D${at}`, offer, supplierShipDay(shortage.now, offer), offer.supplier, true);
  });
  (shortage.transfers ?? []).forEach((offer, at) => {
    way(`T${at}`);
    row(`qT${at} <= ${offer.free}`);
    const day = leavesAgain(supplierArrival(`${offer.leaves}T00:00`, { leadDays: 0, transitDays: offer.transitDays }), shortage.warehouse);
    gain(price - Number(shortage.unitCost) - Number(offer.unitCost) - lateness(day), `qT${at}`);
    consign('own', day, `yT${at}`);
  });
  if (shortage.assembly) {
    way('A');
    row(`qA <= ${shortage.assembly.most}`);
    const day = leavesAgain(shortage.assembly.done, shortage.warehouse);
    gain(price - Number(shortage.assembly.unitCost) - lateness(day), 'qA');
    consign('own', day, 'yA');
  }
  way('C');
  if (!cuts) row('qC <= 0');
  gain((-policy.cutPercent / 100) * price, 'qC');

  for (const name of consignments) gain(-policy.shipmentCost, name);
  // The first consignment is free, where there is one.
  if (consignments.size > 0) {
    binaries.add('first');
    row(`first - ${[...consignments].join(' - ')} <= 0`);
    gain(policy.shipmentCost, 'first');
  }

  const program = [
    'Maximize',
    ` worth: ${[...gains].map(([name, value]) => `${value < 0 ? '-' : '+'} ${Math.abs(value).toFixed(8)} ${name}`).join(' ')}`,
    'Subject To',
    ` all: ${parts.join(' + ')} = ${quantity}`,
    ` three: ${used.join(' + ')} <= 3`,
    ...rows,
    'Binary',
    ` ${[...binaries].join(' ')}`,
    'General',
    ` ${[...generals].join(' ')}`,
    'End',
  ].join('\n');
  const value = await solveIfPossible(program);
  return value && [...gains].reduce((worth, [name, gained]) => worth + gained * value(name), 0);
}
