import { outcomeWords, type ConsentOutcome } from './index';

const outcome = (more: Partial<ConsentOutcome> = {}): ConsentOutcome => ({ done: [], owed: null, failed: null, ...more });

test.each<[ConsentOutcome, string]>([
  [outcome({ done: [{ kind: 'special_order', quantity: '12', supplier: 'SLOW' }], owed: '4' }), 'done: 12 special order from SLOW; 4 need another way'],
  [outcome({ owed: '12' }), '12 need another way'],
  [outcome({ failed: 'sold out' }), 'could not be done: sold out'],
  [outcome({ words: 'done: 3 transfer from QUI' }), 'done: 3 transfer from QUI'],
  [outcome(), ''],
])('what became of an answer: %j', (row, words) => expect(outcomeWords(row)).toBe(words));
