import { headChangesInWords, priceChanges, priceChangesInWords, termChangesInWords, type TermsOf } from './change-words';

const price = (item: string, from: string, value: string) => ({ item, unit: 'EA', from, price: value });

test('what differs between two lists, and nothing else', () => {
  const before = [price('JAR', '1', '0.50'), price('JAR', '10', '0.4'), price('LID', '1', '0.20')];
  const after = [price('JAR', '1.0', '0.48'), price('JAR', '10', '0.40'), price('BOX', '1', '0.9')];
  const changes = priceChanges(before, after);
  expect(priceChangesInWords(changes)).toBe('JAR each 0.48, was 0.50; BOX each 0.90, new; LID each 0.20, taken off');
  expect(priceChanges(before, before)).toEqual([]);
});

test('many changes are counted after the first five', () => {
  const after = Array.from({ length: 17 }, (_, at) => price(`I${at}`, '10', '1'));
  expect(priceChangesInWords(priceChanges([], after))).toMatch(/^I0 each from 10 1.00, new; .*; I4 each from 10 1.00, new; and 12 more$/);
});

test('terms of a contract say what they are and were', () => {
  const line: TermsOf = { item: 'JAR', group: null, unit: 'EA', kind: 'fixed', price: '0.45', percent: null, minimum: null, most: '500' };
  const group: TermsOf = { ...line, item: null, group: 'Jars', unit: null, kind: 'off_list', price: null, percent: '5', most: null };
  expect(
    termChangesInWords([
      { before: { ...line, price: '0.44' }, after: line },
      { before: null, after: group },
    ]),
  ).toBe('JAR 0.45 each, at most 500, was 0.44 each, at most 500; Jars 5 % off list, new');
});

test('of a contract’s head, what changed', () => {
  const head = { name: 'Season', firstDay: '2027-01-01', lastDay: '2027-11-30', note: '', buyers: ['Wether Hill'] };
  expect(headChangesInWords(head, { ...head, lastDay: '2027-12-31', buyers: [] }, '2027-03-09')).toBe(
    'Fri 1 Jan to Fri 31 Dec, was Fri 1 Jan to Tue 30 Nov; for nobody, was Wether Hill',
  );
  expect(headChangesInWords(head, head, '2027-03-09')).toBe('');
});
