import type { PurchaseView } from '@nockwright/contract/supply';

type Line = PurchaseView['lines'][number];

/** A line of a purchase order for specs: a hundred jars that are due on Mon 15 Mar. */
export function testPurchaseLine(more: Partial<Line> = {}): Line {
  return {
    id: 71,
    lineNo: 1,
    item: 'JAR-340-HX',
    description: 'Hexagonal jar',
    unit: 'EA',
    quantity: '100',
    received: '0',
    closed: '0',
    damaged: '0',
    open: '100',
    cost: '0.31',
    expectedDay: '2027-03-15',
    toldDay: null,
    availableDay: '2027-03-16',
    overdue: false,
    lifts: false,
    bound: false,
    theirCode: 'TA1000',
    gtin: null,
    tracksLots: false,
    tracksSerials: false,
    tracksExpiry: false,
    home: null,
    owed: [],
    ...more,
  };
}
