import type { PartView } from '@nockwright/contract/shipping';
import { readAtBin } from './read-label';

const part = { item: 'SYR-5', bin: 'A-01', lot: 'L1', tracksLots: true, gtins: ['09501101530003'] } as unknown as PartView;
const jar = { ...part, item: 'JAR', lot: '', tracksLots: false, gtins: ['05901234123457', '15901234123454'] } as unknown as PartView;
const read = (text: string, of = part) => readAtBin(text, of, '2027-03-09');

it('the bin, the goods and a tray of them are right; so is the code typed in small letters', () => {
  expect(read('a-01')).toEqual({ is: 'bin' });
  expect(read('(01)09501101530003(10)L1')).toEqual({ is: 'goods' });
  expect([read('5901234123457', jar).is, read('15901234123454', jar).is, read('jar', jar).is]).toEqual(['goods', 'goods', 'goods']);
});

it('other goods, another lot, no lot and what has expired are refused in words', () => {
  expect(read('jar')).toEqual({ is: 'wrong', words: 'This is not SYR-5. Go to bin A-01.' });
  expect(read('(01)09501101530003(10)L2')).toEqual({ is: 'wrong', words: 'Lot L2 is not the one to pick. Take lot L1.' });
  expect(read('09501101530003')).toEqual({ is: 'wrong', words: 'SYR-5 is kept by lot. Scan the label with lot L1.' });
  expect(read('(01)09501101530003(17)270301(10)L1')).toEqual({ is: 'wrong', words: 'Lot L1 has expired. Put it into quarantine.' });
});
