import fc from 'fast-check';
import { checkOrderBook, readOrderBook } from './index';
import { anyBook, onHand, simpleBook, wants } from '../../test/books';

const book = () =>
  JSON.parse(
    JSON.stringify(
      simpleBook({
        items: [{ id: 'JAR' }, { id: 'HIVE', assembly: { days: 1, components: [{ item: 'JAR', quantity: 2 }] } }],
        supply: [onHand(5), { ...onHand(3, 'T'), for: 'A/1' }],
        demand: [wants('A', 4, '2027-03-02', { promised: [{ date: '2027-03-02', quantity: 4 }] }), wants('B', 4, '2027-03-02')],
      }),
    ),
  ) as LooseBook;

/** A book that may be spoiled anywhere: what is looked up in it can be set to anything. */
interface Loose {
  [field: string]: unknown;
}
type LooseBook = Record<'warehouses' | 'items' | 'supply' | 'orders' | 'demand', Loose[]> & Loose;

const promisedOf = (row: Loose) => (row['promised'] as Loose[])[0]!;
const assemblyOf = (row: Loose) => row['assembly'] as Loose;

/** The paths of the faults of a sound book after one thing in it is changed. */
function faultsAfter(change: (book: LooseBook) => void): string[] {
  const changed = book();
  change(changed);
  return checkOrderBook(changed).map((fault) => fault.path);
}

test('a sound book has no fault, whatever it holds', () => {
  expect(checkOrderBook(book())).toEqual([]);
  fc.assert(fc.property(anyBook, (sound) => expect(checkOrderBook(sound)).toEqual([])));
});

test.each<[string, string[], (book: LooseBook) => void]>([
  ['a missing time', ['asOf'], (b) => delete b['asOf']],
  ['a time with seconds', ['asOf'], (b) => (b['asOf'] = '2027-03-01T09:30:00')],
  ['a list that is none', ['supply'], (b) => ((b as Loose)['supply'] = {})],
  ['a row that is none', ['demand[1]'], (b) => ((b.demand as unknown[])[1] = 7)],
  ['no weekdays', ['warehouses[0].workdays'], (b) => (b.warehouses[0]!['workdays'] = [])],
  ['an eighth weekday', ['warehouses[0].workdays[1]'], (b) => (b.warehouses[0]!['workdays'] = [1, 8])],
  ['a cut-off after midnight', ['warehouses[0].cutoff'], (b) => (b.warehouses[0]!['cutoff'] = '24:00')],
  ['half a receiving day', ['warehouses[0].receivingDays'], (b) => (b.warehouses[0]!['receivingDays'] = 0.5)],
  ['an id twice, told at the second', ['supply[1].id'], (b) => (b.supply[1]!['id'] = 'S')],
  ['an unknown item', ['demand[0].item', 'supply[1].for'], (b) => (b.demand[0]!['item'] = 'LID')],
  ['supply for a demand elsewhere', ['supply[1].for'], (b) => (b.supply[1]!['item'] = 'HIVE')],
  ['supply for nobody', ['supply[1].for'], (b) => (b.supply[1]!['for'] = 'Z/9')],
  ['five decimals', ['supply[0].quantity'], (b) => (b.supply[0]!['quantity'] = 1.00001)],
  ['nothing of it', ['demand[1].quantity'], (b) => (b.demand[1]!['quantity'] = 0)],
  ['a day there is not', ['demand[1].requested'], (b) => (b.demand[1]!['requested'] = '2027-02-29')],
  ['more promised than wanted', ['demand[0].promised'], (b) => (promisedOf(b.demand[0]!)['quantity'] = 5)],
  ['more on bound goods than is promised', ['demand[0].promised[0].boundQuantity'], (b) => (promisedOf(b.demand[0]!)['boundQuantity'] = 5)],
  ['less than none on bound goods', ['demand[0].promised[0].boundQuantity'], (b) => (promisedOf(b.demand[0]!)['boundQuantity'] = -1)],
  ['bound goods in words', ['demand[0].promised[0].boundQuantity'], (b) => (promisedOf(b.demand[0]!)['boundQuantity'] = 'all')],
  ['bound goods with five decimals', ['demand[0].promised[0].boundQuantity'], (b) => (promisedOf(b.demand[0]!)['boundQuantity'] = 0.00001)],
  ['a last day there is not', ['supply[0].expires'], (b) => (b.supply[0]!['expires'] = '2027-02-30')],
  ['life less than none', ['demand[0].lifeDays'], (b) => (b.demand[0]!['lifeDays'] = -1)],
  ['half a day of life', ['demand[0].lifeDays'], (b) => (b.demand[0]!['lifeDays'] = 0.5)],
  ['assembled, what is not', ['demand[0].promised[0].assembled'], (b) => (promisedOf(b.demand[0]!)['assembled'] = true)],
  ['a component of itself', ['items[1].assembly.components[0].item'], (b) => ((assemblyOf(b.items[1]!)['components'] as Loose[])[0]!['item'] = 'HIVE')],
  ['no components', ['items[1].assembly.components'], (b) => (assemblyOf(b.items[1]!)['components'] = [])],
  ['days less than none', ['items[1].assembly.days'], (b) => (assemblyOf(b.items[1]!)['days'] = -1)],
  ['priority in words', ['orders[0].priority'], (b) => (b.orders[0]!['priority'] = 'high')],
  ['complete in words', ['orders[0].shipComplete'], (b) => (b.orders[0]!['shipComplete'] = 'yes')],
])('%s is told at %j', (_, paths, change) => expect(faultsAfter(change).sort()).toEqual(paths.sort()));

test('four decimals pass, by value', () => expect(faultsAfter((b) => (b.supply[0]!['quantity'] = 1.1234))).toEqual([]));

test('fractions of an assembled item are told at the quantity', () => {
  const faults = faultsAfter((b) => {
    b.demand[1] = { ...b.demand[1]!, item: 'HIVE', promised: [{ date: '2027-03-02', quantity: 1.5, assembled: true }] };
  });
  expect(faults).toEqual(['demand[1].promised[0].quantity']);
});

test('every fault is told, not only the first', () => {
  const faults = faultsAfter((b) => {
    delete b.demand[0]!['requested'];
    b.supply[0]!['quantity'] = 'five';
    b.orders[1]!['entered'] = '2027-02-01';
  });
  expect(faults.sort()).toEqual(['demand[0].requested', 'orders[1].entered', 'supply[0].quantity']);
});

test.each(['', '{', '[]', 'null', '3'])('the text %j is no book', (text) => {
  const read = readOrderBook(text);
  expect(read.ok ? [] : read.faults.map((fault) => fault.path)).toEqual(['$']);
});

test('a loop of any length is found without recursion', () => {
  const length = 20_000;
  const items = Array.from({ length }, (_, at) => ({ id: `I${at}`, assembly: { days: 0, components: [{ item: `I${(at + 1) % length}`, quantity: 1 }] } }));
  const faults = checkOrderBook({ ...simpleBook({ demand: [] }), items });
  expect(faults.map((fault) => fault.path)).toEqual([`items[${length - 1}].assembly.components[0].item`]);
});
