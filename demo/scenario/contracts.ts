/** A line of a contract: an item (with the unit of a fixed price) or a group. Quantities in stocking units. */
export interface DemoContractLine {
  readonly item?: string;
  readonly group?: string;
  readonly kind: 'fixed' | 'off_list' | 'cost_plus';
  readonly unit?: string;
  readonly price?: string;
  readonly percent?: string;
  readonly minimum?: string;
  readonly most?: string;
}

export interface DemoContract {
  readonly name: string;
  /** Days from today to its first and its last day. */
  readonly days: readonly [first: number, last: number];
  readonly customers: readonly string[];
  readonly lines: readonly DemoContractLine[];
}

/** They overlap on purpose: one is nearly used up, one ends within the week, one has ended, one begins soon. */
export const CONTRACTS: readonly DemoContract[] = [
  {
    name: 'Co-operative season',
    days: [-70, 200],
    customers: ['C1001', 'C1002', 'C1004', 'C1008', 'C1018', 'C1023'],
    lines: [
      { group: 'Jars', kind: 'off_list', percent: '8' },
      { group: 'Feed and treatments', kind: 'off_list', percent: '5' },
    ],
  },
  {
    name: 'Wether Hill packing',
    days: [-60, 120],
    customers: ['C1001'],
    lines: [
      { item: 'JAR-340-HX', kind: 'fixed', unit: 'XTY', price: '10.40', minimum: '480', most: '24000' },
      { item: 'LID-063-GD', kind: 'fixed', unit: 'EA', price: '0.155', most: '24000' },
    ],
  },
  {
    name: 'Wether Hill spring offer',
    days: [-14, 3],
    customers: ['C1001'],
    lines: [{ item: 'JAR-340-HX', kind: 'fixed', unit: 'XTY', price: '10.95' }],
  },
  {
    name: 'Hexcombe foundation',
    days: [-45, 90],
    customers: ['C1011'],
    lines: [
      { item: 'FND-DN-W', kind: 'fixed', unit: 'XBX', price: '74.00', most: '2400' },
      { item: 'FND-SN-W', kind: 'cost_plus', percent: '22' },
    ],
  },
  {
    name: 'Garrick & Lowe stores',
    days: [-100, 160],
    customers: ['C1003'],
    lines: [
      { group: 'Clothing', kind: 'off_list', percent: '12' },
      { group: 'Hive bodies', kind: 'off_list', percent: '6' },
      { item: 'SMK-SS-10', kind: 'fixed', unit: 'EA', price: '26.90', minimum: '6' },
    ],
  },
  {
    name: 'College teaching stock',
    days: [-30, 300],
    customers: ['C1015'],
    lines: [{ group: 'Clothing', kind: 'cost_plus', percent: '28' }],
  },
  {
    name: 'Island feed',
    days: [9, 190],
    customers: ['C1009', 'C1022'],
    lines: [{ item: 'FEE-POL-05', kind: 'fixed', unit: 'EA', price: '7.80', most: '1500' }],
  },
  {
    name: 'Winterbourne autumn',
    days: [-220, -12],
    customers: ['C1018'],
    lines: [{ item: 'JAR-340-RD', kind: 'fixed', unit: 'XTY', price: '9.10', most: '9600' }],
  },
];

/** Who buys under contracts in a way of their own: the rest take the lowest price, from as many contracts as hold. */
export const CONTRACT_RULES = [
  { customer: 'C1003', mustName: true, several: false, choice: 'lowest_price' },
  { customer: 'C1001', mustName: false, several: true, choice: 'lowest_price' },
  { customer: 'C1011', mustName: false, several: false, choice: 'ends_first' },
] as const;

/** How much credit customers have; a limit of its own for who has one. */
export const USUAL_LIMIT = 40_000;
export const CREDIT_LIMITS = [
  { customer: 'C1020', limit: 1_200 },
  { customer: 'C1013', limit: 5_000 },
] as const;
/** Who has not paid: customer, share of the invoice, days since it was made. */
export const UNPAID = [
  { customer: 'C1006', amount: '418.60', paid: '0', days: 47 },
  { customer: 'C1017', amount: '1290.00', paid: '500.00', days: 39 },
  { customer: 'C1020', amount: '366.40', paid: '0', days: 34 },
  { customer: 'C1009', amount: '742.15', paid: '0', days: 21 },
  { customer: 'C1001', amount: '2310.80', paid: '0', days: 12 },
] as const;

/** The least margin a price set by hand may leave without the manager's word, in percent. */
export const FLOOR_MARGIN = 15;
