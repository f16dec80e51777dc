import { answerInStockingUnits, type AnsweredFigures } from './answer-units';

const said = (figures: Partial<AnsweredFigures>): AnsweredFigures => ({ quantity: null, unit: null, price: null, priceFor: null, priceUnit: null, ...figures });
const BOXES = new Map([['XBX', '100']]);

test.each<[string, Partial<AnsweredFigures>, string, object]>([
  ['no unit is the one we ordered in', { quantity: '3', price: '0.5' }, 'EA', { ok: true, quantity: '3', price: '0.5' }],
  ['each, piece and one are one thing', { quantity: '3', unit: 'C62' }, 'EA', { ok: true, quantity: '3', price: null }],
  ['a box holds what theirs hold', { quantity: '3', unit: 'XBX' }, 'EA', { ok: true, quantity: '300', price: null }],
  ['a price is of the unit of the quantity', { quantity: '3', unit: 'XBX', price: '25' }, 'EA', { ok: true, quantity: '300', price: '0.25' }],
  ['a price may be for a hundred', { price: '25', priceFor: '100', priceUnit: 'EA' }, 'EA', { ok: true, quantity: null, price: '0.25' }],
  [
    'a price may be in another unit than the quantity',
    { quantity: '3', unit: 'XBX', price: '0.25', priceUnit: 'EA' },
    'EA',
    { ok: true, quantity: '300', price: '0.25' },
  ],
])('%s', (_, figures, unit, expected) => expect(answerInStockingUnits(said(figures), unit, BOXES)).toEqual(expected));

test.each<[Partial<AnsweredFigures>, string, RegExp]>([
  [{ quantity: '3', unit: 'BX' }, 'EA', /the quantity is in BX/],
  [{ quantity: '3', unit: 'EA' }, 'KGM', /the quantity is in EA, and we do not know how many KGM/],
  [{ price: '3', priceUnit: 'XPX' }, 'EA', /the price is in XPX/],
  [{ price: '3', priceFor: '0' }, 'EA', /the price is for 0/],
])('%j of %s is refused', (figures, unit, fault) =>
  expect(answerInStockingUnits(said(figures), unit, BOXES)).toEqual({ ok: false, fault: expect.stringMatching(fault) as string }),
);
