import { spokenOrder, type ToldLine } from './spoken-order';

const TODAY = '2027-03-01';
const line = (day: string | null, more: Partial<ToldLine> = {}): ToldLine => ({
  description: 'Jar',
  days: day === null ? [] : [day],
  open: day === null,
  late: day === null || day > '2027-03-03',
  spoken: `It leaves ${day}.`,
  ...more,
});
const many = (count: number, day: string | null, more: Partial<ToldLine> = {}) => Array.from({ length: count }, () => line(day, more));

test('nothing open says nothing; all in time says so once', () => {
  expect(spokenOrder([], TODAY)).toBe('');
  expect(spokenOrder([...many(20, '2027-03-02'), line('2027-03-03')], TODAY)).toBe('Everything leaves in time, the last of it Wed 3 Mar.');
});

test('a few late lines are told one by one, however long the order', () => {
  expect(spokenOrder([...many(20, '2027-03-02'), line('2027-03-08', { description: 'Suit' })], TODAY)).toBe('Suit: It leaves 2027-03-08.');
});

test('many are summed up by day, the most first, one line by its name, and those without a day are called back', () => {
  const lines = [...many(14, '2027-03-03'), line('2027-03-09', { description: 'Ventilated suit, L' }), ...many(2, '2027-03-05'), ...many(4, null)];
  expect(spokenOrder(lines, TODAY)).toBe(
    '14 of the 21 lines leave on Wednesday the 3rd; 2 on Friday the 5th; Ventilated suit, L on Tuesday the 9th; for 4 I have no day yet and will call you back.',
  );
});

test('a line that leaves in parts counts by its last; one of which some has no day counts as without', () => {
  const lines = [
    ...many(5, '2027-03-08'),
    line(null, { days: ['2027-03-02', '2027-03-08'], open: false, late: true }),
    line('2027-03-02', { open: true, late: true }),
  ];
  expect(spokenOrder(lines, TODAY)).toBe('6 of the 7 lines leave on Monday the 8th; for Jar I have no day yet and will call you back.');
});

test('of very many days the rest is told by its last', () => {
  const lines = ['04', '05', '08', '09', '10', '11'].flatMap((day) => many(day === '04' ? 3 : 1, `2027-03-${day}`, { late: true }));
  expect(spokenOrder(lines, TODAY)).toBe(
    '3 of the 8 lines leave on Thursday the 4th; Jar on Friday the 5th; Jar on Monday the 8th; Jar on Tuesday the 9th; 2 later, the last on Thursday the 11th.',
  );
});

test('where nothing has a day', () => {
  expect(spokenOrder(many(6, null), TODAY)).toBe('For all 6 I have no day yet and will call you back.');
});
