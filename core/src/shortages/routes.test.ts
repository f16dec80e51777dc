import { purchaseQuantity, routesFor, specialOrderDay, supplierDay, type Shortage, type SupplierOffer } from './index';

const offer: SupplierOffer = {
  supplier: 'HAL',
  name: 'Halewood',
  cost: '0.60',
  leadDays: 3,
  minimum: '10',
  multiple: '10',
  dropShips: true,
  dropShipFee: '6.00',
};
const warehouse = { workdays: [1, 2, 3, 4, 5], closed: ['2027-03-15'], receivingDays: 1 };
const shortage: Shortage = {
  today: '2027-03-09', // a Tuesday
  quantity: '60',
  requested: '2027-03-10',
  warehouse,
  transitDays: 1,
  unitPrice: '1.00',
  unitCost: '0.58',
  currency: 'EUR',
  inbound: { days: [{ day: '2027-03-18', quantity: '60' }], uncovered: '0' },
  offers: [offer],
};

test('every way is there, the earliest first, with day, cost and margin', () => {
  expect(routesFor(shortage)).toMatchObject([
    { kind: 'drop_ship', shipDay: '2027-03-12', deliveryDay: '2027-03-15', daysLate: 2, unitCost: '0.7', marginPercent: '30.0', marginAmount: '18.00' },
    // Friday the 12th in, put away by Tuesday: the warehouse is closed on the 15th.
    { kind: 'special_order', shipDay: '2027-03-16', deliveryDay: '2027-03-17', daysLate: 6, unitCost: '0.60', marginPercent: '40.0', marginAmount: '24.00' },
    { kind: 'backorder', shipDay: '2027-03-18', deliveryDay: '2027-03-19', daysLate: 8, unitCost: '0.58', marginPercent: '42.0', marginAmount: '25.20' },
  ]);
});

test('where nothing is due, waiting means the next purchase at the soonest lead time', () => {
  const [first] = routesFor({ ...shortage, inbound: { days: [], uncovered: '60' } }).filter((route) => route.kind === 'backorder');
  expect(first).toMatchObject({ label: 'wait for the next purchase', shipDay: '2027-03-16' });
});

test('without supply and supplier no day is given', () => {
  const routes = routesFor({ ...shortage, inbound: { days: [], uncovered: '60' }, offers: [] });
  expect(routes).toMatchObject([{ kind: 'backorder', shipDay: null, daysLate: null }]);
});

test('a purchase is lifted to minimum and multiple, and says what is left over', () => {
  expect(purchaseQuantity('3', offer)).toBe('10');
  expect(purchaseQuantity('61', offer)).toBe('70');
  expect(purchaseQuantity('70', offer)).toBe('70');
  const special = routesFor({ ...shortage, quantity: '61' }).find((route) => route.kind === 'special_order')!;
  expect(special.buys).toBe('70');
  expect(special.remarks.join()).toContain('9 more than needed');
});

test('a supplier who cannot ship just this quantity is named, without a day', () => {
  const drop = routesFor({ ...shortage, quantity: '61' }).find((route) => route.kind === 'drop_ship')!;
  expect(drop.shipDay).toBeNull();
  expect(drop.remarks.join()).toContain('lots of 10');
});

test('lead times count working days from the first one', () => {
  expect(supplierDay('2027-03-13', 1)).toBe('2027-03-16'); // a Saturday: counted from Monday
  expect(specialOrderDay('2027-03-09', 3, warehouse)).toEqual({ arrives: '2027-03-12', ships: '2027-03-16' });
});
