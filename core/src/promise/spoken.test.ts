import { spokenPromise } from './index';

const today = '2027-03-09';

test.each([
  [[{ day: '2027-03-09', quantity: 60 }], 0, 'All 60 leave today.'],
  [[{ day: '2027-03-12', quantity: 1 }], 0, 'It leaves on Friday the 12th.'],
  [
    [
      { day: '2027-03-10', quantity: 360 },
      { day: '2027-03-18', quantity: 240 },
    ],
    0,
    'I can send 360 tomorrow; the other 240 leave on Thursday the 18th.',
  ],
  [
    [
      { day: '2027-03-12', quantity: 5 },
      { day: '2027-03-12', quantity: 5 },
    ],
    0,
    'All 10 leave on Friday the 12th.',
  ],
  [
    [
      { day: '2027-03-12', quantity: 9 },
      { day: '2027-03-16', quantity: 1 },
    ],
    0,
    'I can send 9 on Friday the 12th; the other 1 leaves on Tuesday the 16th.',
  ],
  [[{ day: '2027-03-12', quantity: 9 }], 3, 'I can send 9 on Friday the 12th; for the other 3 I have no day yet.'],
  [[], 30, 'I have no day yet for the 30; I will find a way and call you back.'],
  [[], 0, 'Nothing is left to send.'],
])('%j and %i open is said: %s', (parts, uncovered, sentence) => expect(spokenPromise(parts, uncovered, today)).toBe(sentence));
