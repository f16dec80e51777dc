import { obligationWords, remarkWords, routeRemarks, type Obligation, type Remark } from './remark';

const TODAY = '2027-03-09';

test.each<[Remark, string]>([
  [{ kind: 'free_there', warehouse: 'Quillhaven', free: '60', enough: true }, 'of 60 there that nobody is promised'],
  [{ kind: 'free_there', warehouse: 'Quillhaven', free: '60', enough: false }, 'Quillhaven has only 60 that nobody is promised'],
  [{ kind: 'due', day: '2027-03-12', bound: false }, 'due in Fri 12 Mar'],
  [{ kind: 'due', day: '2028-03-12', bound: true }, 'due in Sun 12 Mar 2028, bound to this line'],
  [{ kind: 'only_whole' }, 'only whole ones can be assembled'],
  [{ kind: 'components', most: '4', enough: true }, 'components for 4 are free'],
  [{ kind: 'components', most: '4', enough: false }, 'components for only 4 are free'],
  [{ kind: 'made_of', components: '2 BODY, 1 ROOF' }, 'of 2 BODY, 1 ROOF'],
  [{ kind: 'done_by', day: '2027-03-10' }, 'done by Wed 10 Mar'],
  [{ kind: 'item', description: 'Round jar' }, 'Round jar'],
  [{ kind: 'only_promised', most: '3' }, 'only 3 could be promised'],
  [{ kind: 'stands_for', sent: '4', quantity: '8', over: null }, '4 go for 8'],
  [{ kind: 'stands_for', sent: '5', quantity: '9', over: '1' }, '5 go for 9, 1 more than stand for them'],
  [{ kind: 'own_price', price: '0.4', source: 'list price' }, 'at 0.4 each, list price: less than was agreed for what they replace'],
  [{ kind: 'owed_before', supplier: 'Halewood' }, 'no sooner than what Halewood owe of it already'],
  [{ kind: 'joins', draft: 'P7' }, 'joins the draft P7'],
  [{ kind: 'freight', amount: '1200.50' }, 'freight 1,200.50'],
  [{ kind: 'more_for_less', whole: '690.00', without: '697.00', more: '3' }, 'the whole purchase comes to 690.00 so, 697.00 without the 3'],
  [{ kind: 'not_our_stock' }, 'never touches our stock'],
  [{ kind: 'lots', supplier: 'Halewood', minimum: '20', multiple: '10' }, 'Halewood sells at least 20 in multiples of 10: not for this quantity'],
  [
    { kind: 'next_purchase', quantity: '12', day: '2027-03-16', supplier: 'Halewood' },
    '12 are backordered to the next purchase: no day is promised until it is bought; Tue 16 Mar holds if Halewood is ordered from today',
  ],
  [{ kind: 'buys_more', buys: '20', surplus: '8' }, 'that buys 20: 8 more than needed'],
  [{ kind: 'no_day', quantity: '5' }, '5 have no supply and no supplier: no day can be given'],
  [{ kind: 'covered' }, 'known supply covers it'],
  [{ kind: 'less_to_bill', amount: '30.00' }, '30.00 less to bill'],
])('%j', (remark, words) => expect(remarkWords(remark, TODAY)).toBe(words));

test.each<[Obligation, string]>([
  [{ kind: 'consent', to: 'other_item' }, 'the customer must agree to another item'],
  [{ kind: 'consent', to: 'less' }, 'the customer must agree to do without'],
  [{ kind: 'consent', to: 'later' }, 'the customer must agree to the later day'],
  [{ kind: 'below_minimum', supplier: 'Halewood', minimum: '1000', comes: '42.00' }, 'Halewood wants orders of 1,000 or more, this one comes to 42.00'],
  [{ kind: 'not_returnable', supplier: 'Halewood' }, 'Halewood does not take it back'],
  [{ kind: 'surplus', buys: '70', surplus: '9', wanted: false }, 'buys 70: 9 more than needed go to stock'],
  [{ kind: 'surplus', buys: '70', surplus: '9', wanted: true }, 'buys 9 more than needed, for stock'],
])('%j', (obligation, words) => expect(obligationWords(obligation)).toBe(words));

test('of several ways each is told with its quantity', () => {
  const covered = { quantity: '4', remarks: [{ kind: 'covered' }] } as const;
  const bought = {
    quantity: '6',
    remarks: [
      { kind: 'due', day: '2027-03-12', bound: true },
      { kind: 'joins', draft: 'P7' },
    ],
  } as const;
  expect(routeRemarks([bought], TODAY)).toEqual(['due in Fri 12 Mar, bound to this line', 'joins the draft P7']);
  expect(routeRemarks([covered, bought], TODAY)).toEqual(['4: known supply covers it', '6: due in Fri 12 Mar, bound to this line, joins the draft P7']);
});
