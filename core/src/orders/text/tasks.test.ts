import { clausesOf, taskOf } from './tasks';

test.each([
  ['We do not need 20 trays', 'negates'],
  ['Please cancel the 5 smokers', 'cancels'],
  ['Instead of 10 send 12', 'replaces'],
  ['and cancel the suits from order 20372', 'cancels'],
  ['if no round then 4 hexagonal', 'depends'],
  ['half of last time', 'refers'],
  ['hold off on the 10 boxes', 'defers'],
  ['please don’t send 4 tanks', 'negates'],
  ['the same as last time', 'refers'],
  ['take 5 smokers off', 'cancels'],
  ['reduce the lids to 480', 'replaces'],
  ['order 20311 again', 'refers'],
])('%s %s', (clause, kind) => expect(taskOf(clause)).toBe(kind));

test.each([
  '12 x smoker',
  'no later than 18/03',
  'our order no. WH-8850',
  '6 no. feeders',
  'if possible by friday',
  'half a dozen forks',
  'another dozen brushes',
  '12 off SMK-SS-10',
])('%s only orders', (clause) => expect(taskOf(clause)).toBeNull());

test.each<[string, readonly string[]]>([
  ['send 5 smokers and cancel the suits from order 20372', ['send 5 smokers', 'and cancel the suits from order 20372']],
  ['cancel the suits and 5 lids', ['cancel the suits and 5 lids']],
  ['we do not need 20 trays, but send 5 smokers', ['we do not need 20 trays', 'but send 5 smokers']],
  ['cancel the suits and please send 4 jackets', ['cancel the suits', 'and please send 4 jackets']],
  ['20 trays of jars and 480 lids', ['20 trays of jars and 480 lids']],
])('%s', (sentence, clauses) => expect(clausesOf(sentence)).toEqual(clauses));
