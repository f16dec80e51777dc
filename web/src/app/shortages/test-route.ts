import type { PlannedRoute, RouteChoice, RoutePlan, ShortageRow } from '@nockwright/contract/shortages';

/** A way as specs need one. */
export function testRoute(more: Partial<RouteChoice> = {}, part: Partial<RouteChoice['parts'][number]> = {}): RouteChoice {
  const bought: RouteChoice['parts'][number] = {
    kind: 'special_order',
    supplier: 'SUP',
    warehouse: null,
    item: null,
    label: 'Special order from Tarnbeck',
    quantity: '30',
    buys: '30',
    more: '0',
    leaves: [{ day: '2027-03-17', quantity: '30' }],
    shipDay: '2027-03-17',
    deliveryDay: '2027-03-18',
    unitCost: '0.31',
    holds: 100,
    safeDay: '2027-03-17',
    unbought: false,
    ...part,
  };
  return {
    parts: [bought],
    label: bought.label,
    quantity: bought.quantity,
    shipDay: bought.shipDay,
    deliveryDay: bought.deliveryDay,
    daysLate: 5,
    meanLate: 5,
    unitCost: '0.31',
    marginPercent: '33.0',
    marginAmount: '5.00',
    shipments: 1,
    holds: 100,
    obliges: [],
    remarks: ['bound to this line'],
    possible: true,
    beaten: false,
    ...more,
  };
}

export function testShortage(more: Partial<ShortageRow> = {}): ShortageRow {
  return {
    order: 7,
    number: '20007',
    line: 11,
    lineNo: 1,
    customer: 'Wether Hill',
    customerId: 7,
    item: 'JAR',
    description: 'Jar of glass',
    unit: 'EA',
    warehouse: 'MAR',
    requested: '2027-03-12',
    quantity: '30',
    value: '15.60',
    kind: 'waiting',
    promisedDay: null,
    possibleDay: null,
    daysLate: null,
    suppliers: ['Tarnbeck'],
    asked: false,
    dropShip: false,
    ...more,
  };
}

export function testPlan(...rows: Partial<PlannedRoute>[]): RoutePlan {
  return {
    rows: rows.map((row) => ({
      line: 11,
      order: 7,
      version: 4,
      number: '20007',
      lineNo: 1,
      customer: 'Wether Hill',
      item: 'JAR',
      unit: 'EA',
      quantity: '30',
      route: testRoute(),
      takesBack: [],
      ...row,
    })),
    gathered: [
      {
        kind: 'purchase',
        from: 'Tarnbeck',
        to: 'Marrowby',
        joins: 'P7001',
        lines: rows.length,
        value: '9.30',
        remarks: ['below the 250 the supplier wants of an order'],
      },
    ],
    asks: 0,
    without: 0,
    ripple: { later: [], earlier: [], offers: [] },
  };
}
