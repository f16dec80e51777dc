import { billableWeight, chooseService } from './index';

test('the greater of weight and volumetric weight is charged (common practice: 6,000 cm³ a kilogram, 5,000 for express)', () => {
  const size = { length: 60, width: 40, height: 30 };
  expect([billableWeight(8, size, 6000), billableWeight(8, size, 5000), billableWeight(20.1, size, 5000), billableWeight(3, null, 6000)]).toEqual([
    12, 14.5, 20.5, 3,
  ]);
});

test('the cheapest service that arrives in time; where none does, the one that arrives first', () => {
  const offers = [
    { service: 'SLOW', cost: '4.20', arrives: '2027-03-12' },
    { service: 'FAST', cost: '9.80', arrives: '2027-03-10' },
    { service: 'SAME', cost: '9.80', arrives: '2027-03-11' },
  ];
  expect(chooseService(offers, '2027-03-12')).toMatchObject({ offer: { service: 'SLOW' }, inTime: true });
  expect(chooseService(offers, '2027-03-11')).toMatchObject({ offer: { service: 'FAST' }, inTime: true });
  expect(chooseService(offers, '2027-03-09')).toMatchObject({ offer: { service: 'FAST' }, inTime: false });
  expect(chooseService([], '2027-03-09')).toBeNull();
});
