import type { Mover } from '@nockwright/contract/promise';

/** A promise that moves four days later, for specs that look at a part of it. */
export function testMover(more: Partial<Mover> = {}): Mover {
  return {
    line: 31,
    order: 7,
    number: '20413',
    lineNo: 1,
    customer: 'Pipistrelle Farm Shop',
    phone: '01632 960155',
    item: 'EXT-T4-MN',
    moves: [{ quantity: '2', from: '2027-03-12', to: '2027-03-16' }],
    quantity: '2',
    from: '2027-03-12',
    to: '2027-03-16',
    days: 4,
    before: [{ day: '2027-03-12', quantity: '2' }],
    after: [{ day: '2027-03-16', quantity: '2' }],
    value: '1572.00',
    own: false,
    told: true,
    instead: false,
    say: 'The 2 will leave on Tuesday the 16th instead.',
    ...more,
  };
}

/** The same line a day earlier. */
export function testGain(more: Partial<Mover> = {}): Mover {
  const moves = [{ quantity: '2', from: '2027-03-16', to: '2027-03-15' }];
  return testMover({ line: 32, number: '20414', customer: 'Abbot’s Orchard', moves, from: '2027-03-16', to: '2027-03-15', days: -1, ...more });
}
