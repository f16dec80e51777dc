/** Warehouses, carriers, suppliers and customers of the invented wholesaler. Telephone numbers lie in ranges kept for fiction. */

export const FIRM = {
  name: 'Marrowby Apiary Supply',
  code: 'MARROWBY',
  street: '14 Combe Lane',
  postcode: 'MB4 2QX',
  town: 'Marrowby',
  country: 'GB',
  phone: '01632 960100',
  email: 'orders@marrowby.example',
  tax_number: 'GB 999 9999 73',
  currency: 'EUR',
  /* Invented: it stands for a prefix that GS1 would give. */
  gs1_prefix: '0200417',
} as const;

// prettier-ignore
export const WAREHOUSES = [
  { code: 'MAR', name: 'Marrowby', workdays: [1, 2, 3, 4, 5], cutoff: '14:00', receivingDays: 1, address: '14 Combe Lane, MB1 4QT Marrowby', closedAfter: [17] },
  { code: 'QUI', name: 'Quillhaven', workdays: [1, 2, 3, 4, 5], cutoff: '12:30', receivingDays: 1, address: 'Unit 6, Saltern Way, QH7 2DE Quillhaven', closedAfter: [10] },
  { code: 'OST', name: 'Ostrey Quay', workdays: [1, 2, 3, 4, 5, 6], cutoff: '15:00', receivingDays: 2, address: 'The Rope Shed, OQ3 9AL Ostrey Quay', closedAfter: [] },
] as const;

/** Carriers, invented; each is a stand-in with a process of its own. */
export const CARRIERS = [
  { code: 'HARROW', name: 'Harrow Parcels' },
  { code: 'TARN', name: 'Tarn Freight' },
] as const;

/** What customers are sent goods by; without a carrier we drive ourselves, or they come for it. */
export const SERVICES = [
  { code: 'GROUND', name: 'Ground', transitDays: 1, carrier: 'HARROW', divisor: 6000 },
  { code: 'EXPRESS', name: 'Express', transitDays: 1, carrier: 'HARROW', divisor: 5000 },
  { code: 'PALLET', name: 'Pallet', transitDays: 2, carrier: 'TARN', divisor: 6000 },
  { code: 'ISLES', name: 'Islands', transitDays: 4, carrier: 'TARN', divisor: 6000 },
  { code: 'VAN', name: 'Own van', transitDays: 0, carrier: null, divisor: 6000 },
  { code: 'COLLECT', name: 'Collected', transitDays: 0, carrier: null, divisor: 6000 },
] as const;

/** Cartons of the warehouses: inner sizes in centimetres, weights in kilograms. */
export const CARTONS = [
  { code: 'S', name: 'Small', length_cm: '30', width_cm: '22', height_cm: '18', tare_kg: '0.22', most_kg: '10' },
  { code: 'M', name: 'Medium', length_cm: '45', width_cm: '32', height_cm: '30', tare_kg: '0.48', most_kg: '20' },
  { code: 'L', name: 'Large', length_cm: '60', width_cm: '45', height_cm: '42', tare_kg: '0.86', most_kg: '30' },
  { code: 'HIVE', name: 'Hive parts', length_cm: '56', width_cm: '52', height_cm: '52', tare_kg: '0.95', most_kg: '30' },
] as const;

export const PRICE_LISTS = [
  { code: 'LIST', name: 'list' },
  { code: 'COOP', name: 'co-operatives' },
  { code: 'SHOP', name: 'shops' },
] as const;

/** Goods go between warehouses by van: carrier's working days, and what a kilogram costs. */
// prettier-ignore
export const LANES = [
  ['MAR', 'QUI', 1, '0.06'], ['QUI', 'MAR', 1, '0.06'], ['MAR', 'OST', 2, '0.09'], ['OST', 'MAR', 2, '0.09'], ['QUI', 'OST', 2, '0.11'], ['OST', 'QUI', 2, '0.11'],
] as const;

/** What suppliers want of an order beyond their prices; breaks as share of the cost from a quantity on. */
export const TERMS: Readonly<
  Record<
    string,
    {
      readonly orderDays?: readonly number[];
      readonly cutoff?: string;
      readonly transitDays?: number;
      readonly minimumValue?: string;
      readonly freight?: string;
      readonly freeFrom?: string;
      readonly breaks?: readonly (readonly [from: string, share: string])[];
      readonly closedAfter?: readonly number[];
      readonly keeps?: readonly string[];
    }
  >
> = {
  APPLEYARD: { orderDays: [2, 4], cutoff: '12:00', minimumValue: '150', freight: '14.00', freeFrom: '400' },
  TARNBECK: {
    minimumValue: '250',
    freight: '38.00',
    freeFrom: '900',
    breaks: [
      ['1440', '0.96'],
      ['4320', '0.92'],
    ],
  },
  ORRINGTON: { cutoff: '15:00', freight: '22.00', freeFrom: '500', breaks: [['20', '0.97']] },
  MELLISH: { cutoff: '16:00', minimumValue: '100', freight: '9.50' },
  CORVANE: { minimumValue: '200', closedAfter: [6] },
  DRAYCOMBE: { orderDays: [1, 2, 3], keeps: ['QUN-', 'NUC-'] },
  PENNARD: { minimumValue: '50', freight: '5.00', keeps: ['LBL-'] },
};

/** Lead times in the supplier's working days. Items by prefix of their code, with the share of our cost that they ask. */
// prettier-ignore
export const SUPPLIERS = [
  { code: 'APPLEYARD', name: 'Appleyard Wax', leadDays: 6, dropShips: false, fee: '0', sells: ['FND-', 'WAX-'], share: 1, minimum: '100', multiple: '100' },
  { code: 'HALEWOOD', name: 'Halewood Comb Works', leadDays: 3, dropShips: true, fee: '6.50', sells: ['FND-', 'FRM-'], share: 1.09, minimum: '10', multiple: '10' },
  { code: 'TARNBECK', name: 'Tarnbeck Glass', leadDays: 8, dropShips: true, fee: '18.00', sells: ['JAR-', 'LID-', 'CMB-'], share: 1, minimum: '240', multiple: '24' },
  { code: 'ORRINGTON', name: 'Orrington Joinery', leadDays: 10, dropShips: false, fee: '0', sells: ['BOD-', 'SUP-', 'FLR-', 'ROF-', 'CRB-', 'STD-', 'HIV-', 'FRM-', 'QEX-'], share: 1, minimum: '1', multiple: '1' },
  { code: 'STELLING', name: 'Stelling Stainless', leadDays: 7, dropShips: true, fee: '24.00', sells: ['EXT-', 'TNK-', 'STR-', 'SMK-'], share: 1, minimum: '1', multiple: '1' },
  { code: 'MELLISH', name: 'Mellish Feeds', leadDays: 4, dropShips: true, fee: '12.00', sells: ['FEE-', 'TRT-', 'FED-'], share: 1, minimum: '10', multiple: '5' },
  { code: 'CORVANE', name: 'Corvane Workwear', leadDays: 9, dropShips: false, fee: '0', sells: ['SUT-', 'JKT-', 'GLV-'], share: 1, minimum: '5', multiple: '1' },
  { code: 'DRAYCOMBE', name: 'Draycombe Bee Breeders', leadDays: 12, dropShips: true, fee: '14.00', sells: ['QUN-', 'NUC-'], share: 1, minimum: '1', multiple: '1' },
  { code: 'PENNARD', name: 'Pennard Print and Tools', leadDays: 5, dropShips: true, fee: '5.00', sells: ['LBL-', 'TOL-', 'BRS-', 'FRK-', 'CLP-', 'MRK-', 'NAI-', 'ENT-', 'BKT-'], share: 1, minimum: '1', multiple: '1' },
] as const;

// prettier-ignore
type CustomerRow = readonly [number: string, name: string, contact: string, phone: string, street: string, postcode: string, town: string, rule: 'complete' | 'parts', warehouse: 'MAR' | 'QUI' | 'OST', carrier: 'GROUND' | 'PALLET' | 'ISLES', list: 'COOP' | 'SHOP' | null, priority: number, notes?: string];

// prettier-ignore
export const CUSTOMERS: readonly CustomerRow[] = [
  ['C1001', 'Wether Hill Honey Co-operative', 'Nora Tindall', '01632 960114', 'Packing shed, Back Lane', 'NC4 8WH', 'Nether Combe', 'parts', 'MAR', 'GROUND', 'COOP', 3, 'Rings on Tuesdays. Wants the spoken day repeated by mail.'],
  ['C1002', 'Saltmarsh Beekeepers', 'Idris Pell', '01632 960127', '2 Dyke Cottages', 'SM2 5BK', 'Saltmarsh', 'parts', 'QUI', 'GROUND', 'COOP', 5],
  ['C1003', 'Garrick & Lowe Garden Centres', 'Petra Lowe', '0113 496 0301', 'Central store, Ring Road East', 'GL9 1RR', 'Harrowgate Moor', 'complete', 'MAR', 'PALLET', 'SHOP', 4, 'One delivery a store, complete. Booking-in by phone the day before.'],
  ['C1004', 'Thornby County Association', 'Ada Whitmoor', '01632 960143', 'The Old School', 'TB3 7CA', 'Thornby', 'parts', 'MAR', 'GROUND', 'COOP', 5],
  ['C1005', 'Pipistrelle Farm Shop', 'Jonas Aske', '01632 960155', 'Pipistrelle Farm', 'PF1 2SH', 'Upper Lode', 'parts', 'MAR', 'GROUND', 'SHOP', 5],
  ['C1006', 'Quay Street Hardware', 'Mabel Orchard', '01632 960168', '41 Quay Street', 'OQ1 1QS', 'Ostrey Quay', 'parts', 'OST', 'GROUND', 'SHOP', 5],
  ['C1007', 'Lantern Hill School', 'Mr Okafor-Bryce', '01632 960172', 'Lantern Hill', 'LH5 6SC', 'Lantern Hill', 'complete', 'MAR', 'GROUND', null, 5, 'Deliver in term time only, before 15:00.'],
  ['C1008', 'Brackenfold Apiaries', 'Silas Vane', '01632 960181', 'Brackenfold', 'BF8 3AP', 'Cold Ashing', 'parts', 'QUI', 'PALLET', 'COOP', 4],
  ['C1009', 'Isle of Corrin Honey', 'Effie Marrin', '01632 960194', 'The Pier Store', 'IC1 1PS', 'Port Corrin', 'parts', 'OST', 'ISLES', 'SHOP', 5, 'Ferry leaves Mondays and Thursdays.'],
  ['C1010', 'Fennimore Estates', 'Grace Fennimore', '0113 496 0322', 'Estate office', 'FE6 2ST', 'Fennimore', 'complete', 'MAR', 'PALLET', null, 4],
  ['C1011', 'Hexcombe Honey Farm', 'Tobias Rudd', '01632 960206', 'Hexcombe', 'HX2 9HF', 'Hexcombe', 'parts', 'MAR', 'GROUND', 'COOP', 2, 'Largest buyer of foundation. Never split below a box.'],
  ['C1012', 'Old Mill Wholefoods', 'Perpetua Gale', '01632 960217', 'The Old Mill', 'OM4 4WF', 'Millbeck', 'parts', 'QUI', 'GROUND', 'SHOP', 5],
  ['C1013', 'Ravensway Allotment Society', 'Clem Hargate', '01632 960223', 'Plot 1, Ravensway', 'RW7 8AS', 'Ravensway', 'parts', 'MAR', 'GROUND', null, 6],
  ['C1014', 'Sable & Finch Deli', 'Oren Finch', '020 7946 0118', '8 Candlewick Row', 'SF1 3DL', 'Eastgate', 'parts', 'QUI', 'GROUND', 'SHOP', 5],
  ['C1015', 'Dunmarrow Beekeeping College', 'Dr Hale', '01632 960238', 'College Road', 'DM5 1BC', 'Dunmarrow', 'complete', 'MAR', 'GROUND', 'COOP', 4],
  ['C1016', 'Tallow Bridge Candles', 'Wren Astley', '01632 960244', '3 Tallow Bridge', 'TB8 2CN', 'Tallow Bridge', 'parts', 'QUI', 'GROUND', null, 5],
  ['C1017', 'Cobbett Farm Supplies', 'Hugh Cobbett', '01632 960259', 'Station Yard', 'CF3 3FS', 'Stoke Cobbett', 'parts', 'OST', 'PALLET', 'SHOP', 5],
  ['C1018', 'Winterbourne Honey', 'Lys Carrow', '01632 960263', 'Upper Winterbourne', 'WH9 4HN', 'Winterbourne', 'parts', 'MAR', 'GROUND', 'COOP', 3],
  ['C1019', 'Marsh Harrier Nurseries', 'Bea Lomax', '01632 960275', 'Harrier Road', 'MH6 6NU', 'Saltmarsh', 'complete', 'QUI', 'PALLET', 'SHOP', 5],
  ['C1020', 'Kettleby Bee Supplies', 'Rufus Kettle', '01632 960289', '17 Market Place', 'KB2 2MP', 'Kettleby', 'parts', 'OST', 'GROUND', 'SHOP', 4],
  ['C1021', 'Abbot’s Orchard', 'Brother Aldous', '01632 960291', 'The Abbey', 'AO1 7AB', 'Orchard Combe', 'parts', 'MAR', 'GROUND', null, 5],
  ['C1022', 'Skerry Light Stores', 'Una Skerry', '01632 960304', 'Lighthouse Lane', 'SL8 8ST', 'Skerry', 'parts', 'OST', 'ISLES', 'SHOP', 6],
  ['C1023', 'Vale of Arden Pollinators', 'Kit Merrow', '0113 496 0345', 'Vale House', 'VA4 4PO', 'Arden Vale', 'parts', 'MAR', 'GROUND', 'COOP', 5],
  ['C1024', 'Northing Smallholders', 'Agnes Pym', '01632 960319', 'The Green', 'NS5 5GR', 'Northing', 'parts', 'QUI', 'GROUND', null, 5],
];

export const USERS = [
  { login: 'ida', name: 'Ida Perrin', role: 'coordinator' },
  { login: 'sam', name: 'Sam Ostler', role: 'coordinator' },
  { login: 'wil', name: 'Wil Harkness', role: 'warehouse' },
  { login: 'fay', name: 'Fay Lindqvist', role: 'finance' },
  { login: 'mona', name: 'Mona Reyes', role: 'manager' },
] as const;

/** The password of every demo user. */
export const DEMO_PASSWORD = 'honey-and-wax';

/** People one speaks to besides the first contact. */
export const CONTACTS: readonly (readonly [customer: string, name: string, role: string, phone: string, email: string])[] = [
  ['C1001', 'Edwin Marsh', 'Accounts', '01632 960115', 'accounts@wetherhill.example'],
  ['C1001', 'Rosa Quill', 'Goods in', '01632 960116', ''],
  ['C1010', 'Piers Fennimore', 'Owner', '0113 496 0320', 'piers@fennimore.example'],
];

/** What customers call items on their own papers. */
export const ITEM_NUMBERS: readonly (readonly [customer: string, item: string, code: string])[] = [
  ['C1001', 'JAR-340-HX', 'WH-J12'],
  ['C1001', 'LID-063-GD', 'WH-L63'],
  ['C1001', 'FND-DN-W', 'WH-F20'],
  ['C1018', 'JAR-340-RD', '88-1204'],
];
