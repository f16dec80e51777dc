/** An item of the invented wholesaler: code, description, group, stocking unit, kg, list price and cost of one, other units. */
export interface DemoItem {
  readonly code: string;
  readonly description: string;
  readonly group: string;
  readonly unit: string;
  readonly weight: string;
  readonly list: string;
  readonly cost: string;
  readonly units: readonly (readonly [unit: string, numerator: number, denominator: number])[];
  readonly successor?: string;
}

type Row = readonly [
  code: string,
  description: string,
  unit: string,
  weight: string,
  list: string,
  cost: string,
  units?: DemoItem['units'],
  successor?: string,
];

// A table reads best as one: a row an item.
// prettier-ignore
const GROUPS: Readonly<Record<string, readonly Row[]>> = {
  'Hive bodies': [
    ['BOD-N10-CD', 'Hive body, 10 frame, cedar', 'EA', '4.2', '38.50', '24.10'],
    ['BOD-N10-PN', 'Hive body, 10 frame, pine', 'EA', '4.6', '29.90', '18.70'],
    ['SUP-N10-CD', 'Super, 10 frame, cedar', 'EA', '2.9', '29.50', '18.40'],
    ['SUP-N10-PN', 'Super, 10 frame, pine', 'EA', '3.1', '22.80', '14.10'],
    ['FLR-N10-OM', 'Open mesh floor', 'EA', '2.1', '24.60', '15.20'],
    ['ROF-N10-GV', 'Roof, galvanised, 15 cm', 'EA', '3.4', '34.20', '21.50'],
    ['CRB-N10-PY', 'Crown board, two hole', 'EA', '1.1', '12.40', '7.60'],
    ['QEX-N10-WR', 'Queen excluder, wire, framed', 'EA', '0.7', '16.80', '10.30'],
    ['STD-N10-PN', 'Hive stand, pine', 'EA', '2.8', '21.00', '13.20'],
    ['HIV-N10-CD', 'Complete hive, cedar, two supers', 'EA', '17.8', '189.00', '131.00'],
  ],
  Frames: [
    ['FRM-DN-1', 'Deep frame, self-spacing', 'EA', '0.16', '1.42', '0.86', [['XBX', 50, 1]]],
    ['FRM-DN-4', 'Deep frame, straight', 'EA', '0.15', '1.18', '0.71', [['XBX', 50, 1]]],
    ['FRM-SN-1', 'Super frame, self-spacing', 'EA', '0.12', '1.22', '0.74', [['XBX', 50, 1]]],
    ['FRM-SN-4', 'Super frame, straight', 'EA', '0.11', '1.04', '0.63', [['XBX', 50, 1]]],
    ['NAI-GMP-500', 'Gimp pins, 500 g', 'EA', '0.5', '7.90', '4.60'],
  ],
  Foundation: [
    ['FND-DN-W', 'Wax foundation, deep, wired', 'EA', '0.07', '0.92', '0.58', [['XPK', 10, 1], ['XBX', 100, 1]]],
    ['FND-DN-P', 'Wax foundation, deep, plain', 'EA', '0.06', '0.86', '0.54', [['XPK', 10, 1], ['XBX', 100, 1]]],
    ['FND-SN-W', 'Wax foundation, super, wired', 'EA', '0.04', '0.58', '0.36', [['XPK', 10, 1], ['XBX', 100, 1]]],
    ['FND-SN-T', 'Wax foundation, super, thin', 'EA', '0.03', '0.61', '0.38', [['XPK', 10, 1], ['XBX', 100, 1]]],
    ['WAX-BLK-1', 'Beeswax block, 1 kg', 'EA', '1', '14.80', '10.20'],
  ],
  Jars: [
    ['JAR-340-HX', 'Hexagonal jar 340 g', 'EA', '0.19', '0.52', '0.31', [['XTY', 24, 1], ['XPX', 1440, 1]]],
    ['JAR-340-RD', 'Round jar 340 g', 'EA', '0.18', '0.44', '0.26', [['XTY', 24, 1], ['XPX', 1440, 1]]],
    ['JAR-227-HX', 'Hexagonal jar 227 g', 'EA', '0.14', '0.46', '0.28', [['XTY', 24, 1], ['XPX', 1440, 1]]],
    ['JAR-454-RD', 'Round jar 454 g', 'EA', '0.22', '0.49', '0.29', [['XTY', 24, 1], ['XPX', 1440, 1]]],
    ['JAR-042-HX', 'Hexagonal sample jar 42 g', 'EA', '0.06', '0.34', '0.21', [['DZN', 12, 1], ['XTY', 48, 1]]],
    ['LID-063-GD', 'Twist lid 63 mm, gold', 'EA', '0.01', '0.19', '0.11', [['XTY', 24, 1], ['XCT', 1200, 1]]],
    ['LID-063-BK', 'Twist lid 63 mm, black', 'EA', '0.01', '0.19', '0.11', [['XTY', 24, 1], ['XCT', 1200, 1]]],
    ['LID-070-GD', 'Twist lid 70 mm, gold', 'EA', '0.01', '0.21', '0.12', [['XTY', 24, 1], ['XCT', 1200, 1]]],
    ['CMB-CUT-25', 'Cut comb box 250 g', 'EA', '0.02', '0.48', '0.27', [['DZN', 12, 1], ['XBX', 100, 1]]],
  ],
  'Feed and treatments': [
    ['FEE-FON-25', 'Fondant 2.5 kg', 'EA', '2.5', '6.90', '4.30', [['XBX', 5, 1]]],
    ['FEE-SYR-14', 'Invert syrup 14 kg', 'EA', '14.2', '29.50', '19.40'],
    ['FEE-POL-05', 'Pollen substitute 500 g', 'EA', '0.5', '9.80', '6.10'],
    ['TRT-OXA-035', 'Oxalic treatment 35 g', 'EA', '0.06', '6.85', '4.59', [['XBX', 24, 1]]],
    ['TRT-THY-02', 'Thymol strips, two hives', 'EA', '0.05', '14.20', '9.10', [['XBX', 10, 1]]],
    ['TRT-FOR-10', 'Formic pads, ten', 'EA', '0.9', '38.00', '26.20'],
  ],
  Clothing: [
    ['SUT-VNT-M', 'Ventilated suit, M', 'EA', '1.6', '119.00', '71.00'],
    ['SUT-VNT-L', 'Ventilated suit, L', 'EA', '1.7', '119.00', '71.00'],
    ['JKT-COT-M', 'Cotton jacket with veil, M', 'EA', '0.9', '54.00', '31.50'],
    ['JKT-COT-L', 'Cotton jacket with veil, L', 'EA', '1.0', '54.00', '31.50'],
    ['GLV-LTH-9', 'Leather gloves, 9', 'PR', '0.3', '18.90', '11.20'],
    ['GLV-LTH-10', 'Leather gloves, 10', 'PR', '0.3', '18.90', '11.20'],
  ],
  'Extractors and tanks': [
    ['EXT-R9-EL', 'Radial extractor, 9 frame, electric', 'EA', '38', '712.00', '540.00'],
    ['EXT-T4-MN', 'Tangential extractor, 4 frame, manual', 'EA', '14', '286.00', '205.00'],
    ['TNK-050-ST', 'Settling tank 50 kg, stainless', 'EA', '5.2', '118.00', '79.00'],
    ['TNK-100-ST', 'Settling tank 100 kg, stainless', 'EA', '8.8', '174.00', '121.00'],
    ['STR-DBL-SS', 'Double strainer, stainless', 'EA', '0.9', '28.50', '17.30'],
    ['BKT-030-PL', 'Honey bucket 30 lb with lid', 'EA', '0.8', '6.20', '3.60', [['XPK', 10, 1]]],
  ],
  'Queens and colonies': [
    ['QUN-BUC-F1', 'Mated queen, Buckfast, caged', 'EA', '0.02', '44.00', '31.00'],
    ['NUC-N05-BF', 'Nucleus, five frames, on order', 'EA', '9', '215.00', '165.00'],
  ],
  Labels: [['LBL-CUS-1K', 'Jar labels printed for the customer, 1,000', 'EA', '0.8', '64.00', '39.00']],
  Tools: [
    ['SMK-SS-10', 'Smoker, stainless, 10 cm', 'EA', '0.8', '31.50', '19.60'],
    ['SMK-SS-08', 'Smoker, stainless, 8 cm', 'EA', '0.7', '27.00', '16.90', [], 'SMK-SS-10'],
    ['TOL-HIV-J', 'Hive tool, J pattern', 'EA', '0.25', '9.40', '5.30', [['DZN', 12, 1]]],
    ['BRS-BEE-1', 'Bee brush', 'EA', '0.06', '3.90', '2.10', [['DZN', 12, 1]]],
    ['FRK-UNC-1', 'Uncapping fork', 'EA', '0.12', '7.80', '4.40'],
    ['CLP-QUN-1', 'Queen clip catcher', 'EA', '0.03', '4.60', '2.50', [['DZN', 12, 1]]],
    ['MRK-PEN-5', 'Queen marking pens, set of five', 'SET', '0.1', '13.50', '8.20'],
    ['FED-TOP-4', 'Rapid feeder, 4 litre', 'EA', '0.6', '9.90', '5.90'],
    ['ENT-RED-N', 'Entrance reducer', 'EA', '0.1', '2.40', '1.30'],
  ],
};

export const ITEMS: readonly DemoItem[] = Object.entries(GROUPS).flatMap(([group, rows]) =>
  rows.map(([code, description, unit, weight, list, cost, units = [], successor]) => ({
    code,
    description,
    group,
    unit,
    weight,
    list,
    cost,
    units,
    ...(successor ? { successor } : {}),
  })),
);

/** Put together in the house: a brood box from a body and its frames, a hive from brood box, supers, floor, board and roof. */
export const BROOD_BOX: DemoItem = {
  code: 'BRD-N10-CD',
  description: 'Brood box, cedar, with ten frames',
  group: 'Hive bodies',
  unit: 'EA',
  weight: '5.8',
  list: '58.00',
  cost: '34.20',
  units: [],
};

/** Working days it takes, and what goes into one. */
export const RECIPES: readonly { readonly item: string; readonly days: number; readonly components: readonly (readonly [item: string, quantity: string])[] }[] =
  [
    // prettier-ignore
    { item: 'BRD-N10-CD', days: 1, components: [['BOD-N10-CD', '1'], ['FRM-DN-1', '10']] },
    // prettier-ignore
    { item: 'HIV-N10-CD', days: 1, components: [['BRD-N10-CD', '1'], ['SUP-N10-CD', '2'], ['FLR-N10-OM', '1'], ['CRB-N10-PY', '1'], ['ROF-N10-GV', '1']] },
  ];

/** What may go instead, where the customer agrees; so many of it for one. */
// prettier-ignore
export const SUBSTITUTES: readonly (readonly [item: string, substitute: string, ratio: string])[] = [
  ['JAR-340-HX', 'JAR-340-RD', '1'], ['JAR-340-RD', 'JAR-340-HX', '1'], ['LID-063-GD', 'LID-063-BK', '1'], ['LID-063-BK', 'LID-063-GD', '1'],
  ['FND-DN-W', 'FND-DN-P', '1'], ['FND-SN-W', 'FND-SN-T', '1'], ['FRM-DN-4', 'FRM-DN-1', '1'], ['BOD-N10-PN', 'BOD-N10-CD', '1'],
  ['SUP-N10-CD', 'SUP-N10-PN', '1'], ['TNK-050-ST', 'TNK-100-ST', '0.5'], ['FEE-POL-05', 'FEE-FON-25', '1'],
];

/** What items are also called, and their sizes in words. */
export const ALSO_CALLED: Readonly<Record<string, string>> = {
  'SUT-VNT-M': 'bee suit, medium',
  'SUT-VNT-L': 'bee suit, large',
  'JKT-COT-M': 'bee jacket, medium',
  'JKT-COT-L': 'bee jacket, large',
  'GLV-LTH-9': 'gauntlets, size 9, medium',
  'GLV-LTH-10': 'gauntlets, size 10, large',
  'EXT-R9-EL': 'honey spinner',
  'EXT-T4-MN': 'honey spinner, hand crank',
  'BRD-N10-CD': 'brood chamber',
  'FEE-FON-25': 'sugar paste, candy',
};
