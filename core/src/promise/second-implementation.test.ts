import fc from 'fast-check';
import { anyBook, anyExpiringBook } from '../../test/books';
import { slowPromise } from '../../test/slow-promise';
import { promiseBook } from './index';

const RUNS = 300;

test.each(['keep', 'resequence'] as const)('the promise is what a slow second implementation says, in mode %s', (mode) => {
  fc.assert(
    fc.property(anyBook, (book) => expect(promiseBook(book, mode)).toEqual(slowPromise(book, mode))),
    { numRuns: RUNS },
  );
});

test.each(['keep', 'resequence'] as const)('so it is where goods expire, in mode %s', (mode) => {
  fc.assert(
    fc.property(anyExpiringBook, (book) => expect(promiseBook(book, mode)).toEqual(slowPromise(book, mode))),
    { numRuns: RUNS },
  );
});
