import { parseClock } from '../calendar';
import type { Fields, Ids, Report } from './check-fields';
import { checkDay, flag, identify, isObject, localTime, missingOr, quantity, reference, rows, show, wholeDays } from './check-fields';
import type { BookFault, OrderBook } from './order-book';
import { SCALE, toScaled } from './quantity';

/**
 * Reads the text of an order book file. Gives the book, or every fault in it with its JSON path, in file order.
 * A fault is told once, where it stands: what refers to a faulty thing is not called faulty for that.
 */
export function readOrderBook(text: string): { readonly ok: true; readonly book: OrderBook } | { readonly ok: false; readonly faults: readonly BookFault[] } {
  let value: unknown;
  try {
    value = JSON.parse(text);
  } catch (error) {
    return { ok: false, faults: [{ path: '$', message: `not JSON: ${(error as Error).message}` }] };
  }
  const faults = checkOrderBook(value);
  return faults.length === 0 ? { ok: true, book: value as OrderBook } : { ok: false, faults };
}

/** Every fault of a value that should be an order book; none means it is one. */
export function checkOrderBook(value: unknown): readonly BookFault[] {
  const faults: BookFault[] = [];
  const report: Report = (path, message) => faults.push({ path, message });
  if (!isObject(value)) {
    report('$', `expected a JSON object, got ${show(value)}`);
    return faults;
  }
  localTime(value, 'asOf', '', report);
  const warehouses = rows(value, 'warehouses', report);
  const items = rows(value, 'items', report);
  const supply = rows(value, 'supply', report);
  const orders = rows(value, 'orders', report);
  const demand = rows(value, 'demand', report);

  const warehouseIds = identify(warehouses, 'warehouses', report);
  const itemIds = identify(items, 'items', report);
  identify(supply, 'supply', report);
  const orderIds = identify(orders, 'orders', report);
  const demandIds = identify(demand, 'demand', report);

  warehouses?.forEach((row, at) => row && checkWarehouse(row, `warehouses[${at}]`, report));
  items?.forEach((row, at) => row && checkItem(row, `items[${at}]`, itemIds, report));
  if (items) reportLoops(items, itemIds, report);
  supply?.forEach((row, at) => row && checkSupply(row, `supply[${at}]`, { warehouseIds, itemIds, demandIds }, report));
  orders?.forEach((row, at) => row && checkOrder(row, `orders[${at}]`, report));
  demand?.forEach((row, at) => row && checkDemand(row, `demand[${at}]`, { warehouseIds, itemIds, orderIds }, report));
  return faults;
}

function checkWarehouse(row: Fields, path: string, report: Report) {
  const workdays = row['workdays'];
  if (!Array.isArray(workdays)) report(`${path}.workdays`, missingOr(workdays, 'a list of weekdays'));
  else if (workdays.length === 0) report(`${path}.workdays`, 'expected at least one weekday, got none');
  else
    workdays.forEach((weekday, at) => {
      if (!Number.isInteger(weekday) || weekday < 1 || weekday > 7)
        report(`${path}.workdays[${at}]`, `expected a weekday from 1 (Monday) to 7, got ${show(weekday)}`);
    });
  const closed = row['closed'];
  if (closed !== undefined) {
    if (!Array.isArray(closed)) report(`${path}.closed`, missingOr(closed, 'a list of days'));
    else closed.forEach((day, at) => checkDay(day, `${path}.closed[${at}]`, report));
  }
  const cutoff = row['cutoff'];
  if (cutoff !== undefined && (typeof cutoff !== 'string' || parseClock(cutoff) === null))
    report(`${path}.cutoff`, `expected a time HH:MM, got ${show(cutoff)}`);
  if (row['receivingDays'] !== undefined) wholeDays(row, 'receivingDays', path, report);
}

function checkItem(row: Fields, path: string, itemIds: Ids, report: Report) {
  const assembly = row['assembly'];
  if (assembly === undefined) return;
  if (!isObject(assembly)) return report(`${path}.assembly`, missingOr(assembly, 'an object'));
  wholeDays(assembly, 'days', `${path}.assembly`, report);
  const components = assembly['components'];
  const at = `${path}.assembly.components`;
  if (!Array.isArray(components)) return report(at, missingOr(components, 'a list'));
  if (components.length === 0) return report(at, 'expected at least one component, got none');
  components.forEach((component: unknown, index) => {
    if (!isObject(component)) return report(`${at}[${index}]`, missingOr(component, 'an object'));
    reference(component, 'item', `${at}[${index}]`, itemIds, 'item', report);
    quantity(component, 'quantity', `${at}[${index}]`, report);
  });
}

function checkSupply(row: Fields, path: string, ids: { warehouseIds: Ids; itemIds: Ids; demandIds: Ids }, report: Report) {
  reference(row, 'item', path, ids.itemIds, 'item', report);
  reference(row, 'warehouse', path, ids.warehouseIds, 'warehouse', report);
  quantity(row, 'quantity', path, report);
  if (row['date'] !== undefined) checkDay(row['date'], `${path}.date`, report);
  if (row['expires'] !== undefined) checkDay(row['expires'], `${path}.expires`, report);
  if (row['for'] === undefined) return;
  const target = reference(row, 'for', path, ids.demandIds, 'demand', report);
  if (!target) return;
  for (const field of ['item', 'warehouse'] as const) {
    const [mine, theirs] = [row[field], target[field]];
    if (typeof mine === 'string' && typeof theirs === 'string' && mine !== theirs) {
      return report(`${path}.for`, `${show(row['for'])} is a demand of ${field} ${show(theirs)}, this supply is of ${show(mine)}`);
    }
  }
}

function checkOrder(row: Fields, path: string, report: Report) {
  const priority = row['priority'];
  if (priority !== undefined && !(typeof priority === 'number' && Number.isFinite(priority)))
    report(`${path}.priority`, `expected a number, got ${show(priority)}`);
  localTime(row, 'entered', `${path}.`, report);
  flag(row, 'shipComplete', path, report);
}

function checkDemand(row: Fields, path: string, ids: { warehouseIds: Ids; itemIds: Ids; orderIds: Ids }, report: Report) {
  reference(row, 'order', path, ids.orderIds, 'order', report);
  const item = reference(row, 'item', path, ids.itemIds, 'item', report);
  reference(row, 'warehouse', path, ids.warehouseIds, 'warehouse', report);
  const whole = quantity(row, 'quantity', path, report);
  if (row['requested'] === undefined) report(`${path}.requested`, 'missing');
  else checkDay(row['requested'], `${path}.requested`, report);
  flag(row, 'partial', path, report);
  if (row['lifeDays'] !== undefined) wholeDays(row, 'lifeDays', path, report);
  const promised = row['promised'];
  if (promised === undefined) return;
  if (!Array.isArray(promised)) return report(`${path}.promised`, missingOr(promised, 'a list'));
  let sum: number | null = 0;
  promised.forEach((entry: unknown, index) => {
    const at = `${path}.promised[${index}]`;
    const scaled = checkPromised(entry, at, item, report);
    sum = sum === null || scaled === null ? null : sum + scaled;
  });
  if (sum !== null && whole !== null && sum > whole) report(`${path}.promised`, `expected at most the quantity ${whole / SCALE}, got ${sum / SCALE}`);
}

function checkPromised(entry: unknown, path: string, item: Fields | null, report: Report): number | null {
  if (!isObject(entry)) {
    report(path, missingOr(entry, 'an object'));
    return null;
  }
  if (entry['date'] === undefined) report(`${path}.date`, 'missing');
  else checkDay(entry['date'], `${path}.date`, report);
  const scaled = quantity(entry, 'quantity', path, report);
  flag(entry, 'assembled', path, report);
  checkBound(entry['boundQuantity'], scaled, path, report);
  if (entry['assembled'] === true) {
    if (item && item['assembly'] === undefined) report(`${path}.assembled`, `${show(item['id'])} is not an assembled item`);
    else if (scaled !== null && scaled % SCALE !== 0)
      report(`${path}.quantity`, `expected a whole number of an assembled item, got ${show(entry['quantity'])}`);
  }
  return scaled;
}

function checkBound(value: unknown, whole: number | null, path: string, report: Report) {
  const at = `${path}.boundQuantity`;
  if (value === undefined) return;
  if (typeof value !== 'number' || !Number.isFinite(value)) return report(at, `expected a number, got ${show(value)}`);
  if (value < 0) return report(at, `expected 0 or more, got ${show(value)}`);
  const scaled = toScaled(value);
  if (scaled === null) report(at, `expected at most four decimals, got ${show(value)}`);
  else if (whole !== null && scaled > whole) report(at, `expected at most the quantity ${whole / SCALE}, got ${show(value)}`);
}

/** Reports each reference that closes a loop of components. Walks with a stack of its own: the chain may be long. */
function reportLoops(items: readonly (Fields | null)[], ids: Ids, report: Report) {
  const index = new Map<Fields, number>();
  items.forEach((row, at) => row && index.set(row, at));
  const state = new Uint8Array(items.length); // 0 not seen, 1 on the path, 2 done
  for (let start = 0; start < items.length; start++) {
    if (state[start] !== 0 || !items[start]) continue;
    const path = [{ at: start, next: 0 }];
    state[start] = 1;
    while (path.length > 0) {
      const top = path[path.length - 1]!;
      const components = componentsOf(items[top.at]!);
      if (top.next >= components.length) {
        state[top.at] = 2;
        path.pop();
        continue;
      }
      const reference = top.next++;
      const component = components[reference];
      const target = isObject(component) && typeof component['item'] === 'string' ? ids?.get(component['item']) : undefined;
      const to = target ? index.get(target) : undefined;
      if (to === undefined) continue;
      if (state[to] === 1) report(`items[${top.at}].assembly.components[${reference}].item`, `${show(target!['id'])} would be a component of itself`);
      else if (state[to] === 0) {
        state[to] = 1;
        path.push({ at: to, next: 0 });
      }
    }
  }
}

function componentsOf(item: Fields): readonly unknown[] {
  const assembly = item['assembly'];
  const components = isObject(assembly) ? assembly['components'] : undefined;
  return Array.isArray(components) ? components : [];
}
