import { assemblySteps, componentCost, mostAssembled, takenFromShelf, type Recipe } from './index';

// A hive of two bodies and a roof; a body of four sides. Two levels, as a joiner's bill of materials has them.
const recipes = new Map<string, Recipe>([
  [
    'HIVE',
    {
      days: 2,
      components: [
        { item: 'BODY', quantity: '2' },
        { item: 'ROOF', quantity: '1' },
      ],
    },
  ],
  ['BODY', { days: 1, components: [{ item: 'SIDE', quantity: '4' }] }],
  ['PAINT', { days: 1, components: [{ item: 'TIN', quantity: '0.25' }] }],
  ['LOOP', { days: 1, components: [{ item: 'LOOP2', quantity: '1' }] }],
  ['LOOP2', { days: 1, components: [{ item: 'LOOP', quantity: '1' }] }],
]);

test('what is on the shelf is used first, the rest is made before', () => {
  const step = assemblySteps(
    'HIVE',
    3,
    recipes,
    new Map([
      ['BODY', 4],
      ['ROOF', 3],
      ['SIDE', 9],
    ]),
  )!;
  expect(step).toMatchObject({ quantity: 3, days: 3 });
  expect(step.components[0]).toMatchObject({ item: 'BODY', fromShelf: '4', made: { quantity: 2, days: 1 } });
  expect([...takenFromShelf(step)].sort()).toEqual([
    ['BODY', 4],
    ['ROOF', 3],
    ['SIDE', 8],
  ]);
});

test('the most is what the scarcest component allows, and no days are added where nothing is made first', () => {
  const shelf = new Map([
    ['BODY', 4],
    ['ROOF', 9],
    ['SIDE', 7],
  ]);
  expect(mostAssembled('HIVE', 50, recipes, shelf)).toMatchObject({ quantity: 2, days: 2 });
  expect(mostAssembled('HIVE', 50, recipes, new Map([...shelf, ['SIDE', 8]]))).toMatchObject({ quantity: 3, days: 3 });
  expect(mostAssembled('HIVE', 1, recipes, shelf)!.quantity).toBe(1);
  expect(mostAssembled('HIVE', 50, recipes, new Map([['BODY', 9]]))).toBeNull();
});

test('a part of a unit is counted exactly; a fraction and a loop are not assembled', () => {
  expect(mostAssembled('PAINT', 50, recipes, new Map([['TIN', 0.7]]))!.quantity).toBe(2);
  expect(assemblySteps('PAINT', 1.5, recipes, new Map([['TIN', 9]]))).toBeNull();
  expect(assemblySteps('LOOP', 1, recipes, new Map())).toBeNull();
});

test('it costs what the lowest of its components cost', () => {
  expect(
    componentCost(
      'HIVE',
      recipes,
      new Map([
        ['SIDE', '1.50'],
        ['ROOF', '4'],
        ['BODY', '99'],
      ]),
    ),
  ).toBe('16');
});
