/** What a text asks for: item, quantity, unit and, where it says one, the line's day. */
export type Wanted = readonly [item: string, quantity: string, unit: string, day?: string];

export interface SampleText {
  readonly text: string;
  readonly lines: readonly Wanted[];
  readonly po?: string;
  readonly wish?: readonly [kind: 'ship_by' | 'deliver_by', day: string];
  /** Lines a person would read in it and the application does not. */
  readonly missed?: number;
  /** Words that must stay visible as not understood. */
  readonly unknown?: readonly string[];
}

/**
 * Orders as they are written in mails, typed on the phone and pasted from lists, with the right readings, on Tuesday
 * 9 March 2027. Made up for this; the items are those of the demo.
 */
export const SAMPLE_TEXTS: readonly SampleText[] = [
  { text: 'jar-340-hx 20 tray fri', lines: [['JAR-340-HX', '20', 'XTY', '2027-03-12']] },
  { text: 'LID-063-GD 960', lines: [['LID-063-GD', '960', 'EA']] },
  { text: '3 dz bee brushes', lines: [['BRS-BEE-1', '3', 'DZN']] },
  { text: 'SMK-SS-10 x 12', lines: [['SMK-SS-10', '12', 'EA']] },
  { text: '12 x smoker stainless 10 cm', lines: [['SMK-SS-10', '12', 'EA']] },
  { text: 'please send 4 boxes of wired deep foundation by 15 march', lines: [['FND-DN-W', '4', 'XBX', '2027-03-15']] },
  { text: 'Please deliver by Friday next week: 12 x smoker stainless 10 cm', lines: [['SMK-SS-10', '12', 'EA']], wish: ['deliver_by', '2027-03-19'] },
  { text: 'Deliveries: no later than 18/03.\n12 off SMK-SS-10', lines: [['SMK-SS-10', '12', 'EA']], wish: ['deliver_by', '2027-03-18'] },
  {
    text: 'PO#: WH-8851\nWe need another dozen bee brushes and add forty-eight lids 63 gold',
    lines: [
      ['BRS-BEE-1', '1', 'DZN'],
      ['LID-063-GD', '48', 'EA'],
    ],
    po: 'WH-8851',
  },
  { text: 'next friday twenty four trays of hex jars 340', lines: [['JAR-340-HX', '24', 'XTY', '2027-03-19']] },
  { text: '2 doz bee brushes for monday next week', lines: [['BRS-BEE-1', '2', 'DZN', '2027-03-15']] },
  {
    text: '480 gold lids 63mm, 2 trays hex jars 340g',
    lines: [
      ['LID-063-GD', '480', 'EA'],
      ['JAR-340-HX', '2', 'XTY'],
    ],
  },
  {
    text: '20 trays hexagonal jars 340 g and 480 gold lids 63 mm',
    lines: [
      ['JAR-340-HX', '20', 'XTY'],
      ['LID-063-GD', '480', 'EA'],
    ],
  },
  { text: 'two radial extractors', lines: [['EXT-R9-EL', '2', 'EA']] },
  { text: 'half a dozen uncapping forks', lines: [['FRK-UNC-1', '6', 'EA']] },
  {
    text: 'A box of self-spacing deep frames and 2 boxes oxalic treatment',
    lines: [
      ['FRM-DN-1', '1', 'XBX'],
      ['TRT-OXA-035', '2', 'XBX'],
    ],
  },
  {
    text: 'JAR-340-HX\t40\ttray\nLID-063-BK\t960\teach\nFEE-SYR-14\t8\teach',
    lines: [
      ['JAR-340-HX', '40', 'XTY'],
      ['LID-063-BK', '960', 'EA'],
      ['FEE-SYR-14', '8', 'EA'],
    ],
  },
  {
    text: 'item;quantity;unit\nSMK-SS-10;6;each\nTOL-HIV-J;2;dozen',
    lines: [
      ['SMK-SS-10', '6', 'EA'],
      ['TOL-HIV-J', '2', 'DZN'],
    ],
  },
  {
    text: 'Hi Ida,\n\nCould you send us 10 trays of round 454 jars please.\nOur order no. WH-8850.\n\nThanks\nNora',
    lines: [['JAR-454-RD', '10', 'XTY']],
    po: 'WH-8850',
  },
  {
    text: 'Good morning,\nPO number: 4500-118/B\nPlease deliver by Friday.\n- 2 x settling tank 50 kg\n- 1 x double strainer\nKind regards\nSilas Vane\nBrackenfold Apiaries\n01632 960181',
    lines: [
      ['TNK-050-ST', '2', 'EA'],
      ['STR-DBL-SS', '1', 'EA'],
    ],
    po: '4500-118/B',
    wish: ['deliver_by', '2027-03-12'],
  },
  {
    text: 'Hello, we need 6 ventilated suits L and 4 pairs of leather gloves 10. We need it here by 18 March. Cheers, Bea',
    lines: [
      ['SUT-VNT-L', '6', 'EA'],
      ['GLV-LTH-10', '4', 'PR'],
    ],
    wish: ['deliver_by', '2027-03-18'],
  },
  {
    text: 'Morning! 12 entrance reducers + 8 rapid feeders please, can you ship tomorrow?',
    lines: [
      ['ENT-RED-N', '12', 'EA'],
      ['FED-TOP-4', '8', 'EA'],
    ],
    wish: ['ship_by', '2027-03-10'],
  },
  { text: 'foundaton deep wired 5 boxes', lines: [['FND-DN-W', '5', 'XBX']] },
  { text: '15 trays hexagnal jars 340', lines: [['JAR-340-HX', '15', 'XTY']] },
  {
    text: '1. Fondant 2.5 kg - 10 boxes\n2. Invert syrup 14 kg - 6\n3. Pollen substitute - 24',
    lines: [
      ['FEE-FON-25', '10', 'XBX'],
      ['FEE-SYR-14', '6', 'EA'],
      ['FEE-POL-05', '24', 'EA'],
    ],
  },
  { text: 'Qty 30 honey bucket 30 lb', lines: [['BKT-030-PL', '30', 'EA']] },
  { text: '1,200 gold lids 63 mm for monday', lines: [['LID-063-GD', '1200', 'EA', '2027-03-15']] },
  { text: 'beeswax blocks 12', lines: [['WAX-BLK-1', '12', 'EA']] },
  {
    text: 'queen marking pens 10 sets, queen clip catcher 2 dozen',
    lines: [
      ['MRK-PEN-5', '10', 'SET'],
      ['CLP-QUN-1', '2', 'DZN'],
    ],
  },
  {
    text: 'Send the rest of last week’s order too please. And 3 thymol strips boxes.',
    lines: [['TRT-THY-02', '3', 'XBX']],
    unknown: ['the rest of last week'],
  },
  { text: 'Ref: AB/7\n5 mated queens buckfast', lines: [['QUN-BUC-F1', '5', 'EA']], po: 'AB/7' },
  { text: '> On Mon 8 Mar 2027 Ida Perrin wrote:\n> shall I send 12 jars?\nYes please: 12 trays round jars 340', lines: [['JAR-340-RD', '12', 'XTY']] },
  {
    text: 'cotton jacket with veil M 3 pcs\ncotton jacket with veil L 5 pcs',
    lines: [
      ['JKT-COT-M', '3', 'EA'],
      ['JKT-COT-L', '5', 'EA'],
    ],
  },
  { text: 'We would like twelve hive tools J pattern, to arrive 22 March.', lines: [['TOL-HIV-J', '12', 'EA']], wish: ['deliver_by', '2027-03-22'] },
  { text: 'is the tangential extractor back? if so 1', lines: [], missed: 1, unknown: ['is the tangential extractor back?', 'if so 1'] },
  { text: '8 flux capacitors\n2 formic pads', lines: [['TRT-FOR-10', '2', 'EA']], unknown: ['flux capacitors'] },
  {
    text: `Dear Marrowby team,

hope you had a good weekend. Spring has come early here and the shop is empty, so this is a longer one.
Our purchase order: HX/318
Could everything be delivered by Thursday 18 March please?

40 trays hexagonal jars 340
20 trays round jars 454
10 trays jars 227 hexagonal
1920 gold lids 63
480 black lids 63
12 boxes foundation deep wired
6 boxes foundation super wired
4 boxes deep frames self-spacing
2 boxes deep frames straight
10 fondant boxes
20 invert syrop
36 pollen substitute
4 boxes oxalic treatment
3 boxes thymol strips
6 smokers stainless 10 cm
2 dozen bee brushes
1 dozen hive tools
12 pairs leather gloves 9
6 ventilated suits M
2 settling tanks 100 kg

Best wishes
Tobias Rudd
Hexcombe Honey Farm`,
    lines: [
      ['JAR-340-HX', '40', 'XTY'],
      ['JAR-454-RD', '20', 'XTY'],
      ['JAR-227-HX', '10', 'XTY'],
      ['LID-063-GD', '1920', 'EA'],
      ['LID-063-BK', '480', 'EA'],
      ['FND-DN-W', '12', 'XBX'],
      ['FND-SN-W', '6', 'XBX'],
      ['FRM-DN-1', '4', 'XBX'],
      ['FRM-DN-4', '2', 'XBX'],
      ['FEE-FON-25', '10', 'XBX'],
      ['FEE-SYR-14', '20', 'EA'],
      ['FEE-POL-05', '36', 'EA'],
      ['TRT-OXA-035', '4', 'XBX'],
      ['TRT-THY-02', '3', 'XBX'],
      ['SMK-SS-10', '6', 'EA'],
      ['BRS-BEE-1', '2', 'DZN'],
      ['TOL-HIV-J', '1', 'DZN'],
      ['GLV-LTH-9', '12', 'PR'],
      ['SUT-VNT-M', '6', 'EA'],
      ['TNK-100-ST', '2', 'EA'],
    ],
    po: 'HX/318',
    wish: ['deliver_by', '2027-03-18'],
  },
];
