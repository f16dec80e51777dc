import { dayByName } from '../calendar';
import { sayChange, withChanged, type ToldPart } from './told-words';

const TODAY = '2027-03-09';
const parts = (...rows: [string, string][]): ToldPart[] => rows.map(([day, quantity]) => ({ day, quantity }));
const say = (told: ToldPart[], holds: ToldPart[], givenUp = '0') => sayChange(told, holds, 'JAR', TODAY, { givenUp, name: dayByName });

test.each<[string, ToldPart[], ToldPart[], string]>([
  ['later', parts(['2027-03-15', '20']), parts(['2027-03-22', '20']), 'The 20 JAR we promised for Monday the 15th will leave on Monday the 22nd instead.'],
  ['earlier', parts(['2027-03-15', '20']), parts(['2027-03-11', '20']), 'The 20 JAR we promised for Monday the 15th can leave on Thursday the 11th already.'],
  [
    'later, lost and kept, all of it',
    parts(['2027-03-15', '20']),
    parts(['2027-03-15', '5'], ['2027-03-22', '7']),
    'The 7 JAR we promised for Monday the 15th will leave on Monday the 22nd instead. The 8 JAR we promised for Monday the 15th have lost their supply; I am looking for another way and will call you back. The other 5 leave on Monday the 15th, as promised.',
  ],
  [
    'nothing left',
    parts(['2027-03-15', '1']),
    [],
    'The 1 JAR we promised for Monday the 15th has lost its supply; I am looking for another way and will call you back.',
  ],
  ['waited for', [], parts(['2027-03-15', '4']), 'The 4 JAR you are waiting for can leave on Monday the 15th.'],
  ['the same', parts(['2027-03-15', '4']), parts(['2027-03-15', '4']), ''],
])('%s', (_, told, holds, words) => {
  expect(say(told, holds)).toBe(words);
});

test('one of two that moves, and the one that stays', () => {
  expect(say(parts(['2027-03-15', '2']), parts(['2027-03-15', '1'], ['2027-03-22', '1']))).toBe(
    'The 1 JAR we promised for Monday the 15th will leave on Monday the 22nd instead. The other 1 leaves on Monday the 15th, as promised.',
  );
});

test('what the customer agreed not to get is not missed', () => {
  expect(say(parts(['2027-03-15', '20']), parts(['2027-03-15', '12']), '8')).toBe('');
  expect(say(parts(['2027-03-15', '20']), parts(['2027-03-22', '12']), '8')).toBe(
    'The 12 JAR we promised for Monday the 15th will leave on Monday the 22nd instead.',
  );
});

test('a change of some parts leaves the others as they were told', () => {
  const all = parts(['2027-03-11', '5'], ['2027-03-15', '10']);
  expect(withChanged(all, parts(['2027-03-15', '10']), parts(['2027-03-11', '2'], ['2027-03-22', '6']))).toEqual(
    parts(['2027-03-11', '7'], ['2027-03-22', '6']),
  );
});
