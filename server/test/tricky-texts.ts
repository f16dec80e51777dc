import type { Wanted } from './sample-texts';

/** A text in which something is said that is easily misread, with what a careful person makes of it. */
export interface TrickyText {
  readonly text: string;
  /** The lines it asks for. */
  readonly lines: readonly Wanted[];
  /** Words that must stay in sight as something to deal with, or as not understood. */
  readonly tasks?: readonly string[];
  /** The days that may be meant for the whole order. */
  readonly days?: readonly string[];
  readonly po?: string;
}

const TASK_ONLY = (text: string): TrickyText => ({ text, lines: [], tasks: [text.replace(/[.!]+$/, '').split(/[.!?]\s/)[0]!] });

/**
 * Texts that take back, replace, put off or depend; units, numbers and days with more than one reading, or none. On Tuesday
 * 9 March 2027, with the items of the demo. Made up for this.
 */
export const TRICKY_TEXTS: readonly TrickyText[] = [
  // What is no line of an order.
  TASK_ONLY('We do not need 20 trays'),
  TASK_ONLY('Please cancel the 5 smokers'),
  TASK_ONLY('Instead of 10 send 12'),
  TASK_ONLY('half of last time'),
  TASK_ONLY('Hold off on the 4 boxes of foundation'),
  TASK_ONLY('Same as last month please, 20 trays'),
  TASK_ONLY('If you have no hexagonal jars then 20 trays of round'),
  TASK_ONLY('Please postpone the 3 radial extractors to April'),
  TASK_ONLY('The 12 hive tools are not needed any more'),
  TASK_ONLY('Reduce the gold lids to 480'),
  TASK_ONLY('Swap the 2 settling tanks 50 kg for 100 kg'),
  { text: 'Repeat order 20311 but 6 smokers more', lines: [], tasks: ['Repeat order 20311', '6 smokers more'] },
  TASK_ONLY('I am returning 3 bee brushes'),
  TASK_ONLY("We won't take the 10 fondant boxes"),
  TASK_ONLY('Unless the price has changed 12 smokers'),
  TASK_ONLY('Please remove 6 uncapping forks from order 20388'),
  TASK_ONLY('No more than 5 of the ventilated suits'),
  TASK_ONLY('Double the pollen substitute of last week'),
  TASK_ONLY('Never send 2.5 kg fondant again'),
  TASK_ONLY('Depending on the price 4 or 6 double strainers'),
  {
    text: 'Please send 12 smokers stainless 10 and cancel the suits from order 20372',
    lines: [['SMK-SS-10', '12', 'EA']],
    tasks: ['and cancel the suits from order 20372'],
  },
  { text: '20 trays hex jars 340, if no hex then round', lines: [['JAR-340-HX', '20', 'XTY']], tasks: ['if no hex then round'] },
  { text: 'We do not need the lids but please send 6 uncapping forks', lines: [['FRK-UNC-1', '6', 'EA']], tasks: ['We do not need the lids'] },
  {
    text: '2 dozen bee brushes\nplease delete the hive tools\n6 pollen substitute',
    lines: [
      ['BRS-BEE-1', '2', 'DZN'],
      ['FEE-POL-05', '6', 'EA'],
    ],
    tasks: ['please delete the hive tools'],
  },
  { text: 'Cancel 5 smokers and 4 tanks. Send 12 entrance reducers.', lines: [['ENT-RED-N', '12', 'EA']], tasks: ['Cancel 5 smokers and 4 tanks'] },
  { text: '8 rapid feeders, otherwise nothing this week', lines: [['FED-TOP-4', '8', 'EA']], tasks: ['otherwise nothing this week'] },
  {
    text: 'PO 4712\n6 smokers stainless 10 cm\ndo not ship before Monday',
    lines: [['SMK-SS-10', '6', 'EA']],
    tasks: ['do not ship before Monday'],
    po: '4712',
  },
  { text: 'Order 480 gold lids 63, instead of the black ones we had', lines: [['LID-063-GD', '480', 'EA']], tasks: ['instead of the black ones we had'] },

  // Units.
  { text: '3 bx FND-DN-W', lines: [['FND-DN-W', '3', 'XBX']] },
  { text: 'FND-DN-W 3 bxs', lines: [['FND-DN-W', '3', 'XBX']] },
  { text: '2 pkts FND-SN-T', lines: [['FND-SN-T', '2', 'XPK']] },
  { text: '4 crates FND-DN-W', lines: [] },
  { text: '5 sleeves of wax foundation deep wired', lines: [] },
  { text: '3 prs leather gloves 9', lines: [['GLV-LTH-9', '3', 'PR']] },
  { text: '2 ctns LID-063-GD', lines: [['LID-063-GD', '2', 'XCT']] },
  { text: '1 plt JAR-340-HX', lines: [['JAR-340-HX', '1', 'XPX']] },
  { text: '6 units SMK-SS-10', lines: [['SMK-SS-10', '6', 'EA']] },
  { text: '7 pallets bee brushes', lines: [] },

  // Numbers.
  { text: '1.200 EA LID-063-GD', lines: [] },
  { text: '2.400 gold lids 63', lines: [] },
  { text: '1,200 LID-063-GD', lines: [['LID-063-GD', '1200', 'EA']] },
  { text: '1.5 JAR-340-HX', lines: [] },
  { text: '0.51 tray JAR-340-HX', lines: [] },
  { text: '1.920,0 LID-063-GD', lines: [['LID-063-GD', '1920', 'EA']] },

  // Days.
  { text: 'SMK-SS-10 x 12 asap', lines: [['SMK-SS-10', '12', 'EA']] },
  { text: '12 uncapping forks by 10/12', lines: [['FRK-UNC-1', '12', 'EA', '2027-12-10']] },
  { text: '12 uncapping forks by 30/02', lines: [] },
  { text: '12 uncapping forks tomorrow morning', lines: [['FRK-UNC-1', '12', 'EA', '2027-03-10']] },
  { text: '12 uncapping forks in week 50', lines: [['FRK-UNC-1', '12', 'EA', '2027-12-13']] },
  { text: '12 uncapping forks by friday afternoon', lines: [['FRK-UNC-1', '12', 'EA', '2027-03-12']] },
  { text: 'Please deliver in week 12\n6 rapid feeders', lines: [['FED-TOP-4', '6', 'EA']], days: ['2027-03-22', '2027-03-26'] },
  { text: 'Please deliver by 04/05.\n6 rapid feeders', lines: [['FED-TOP-4', '6', 'EA']], days: ['2027-05-04', '2027-04-05'] },
  { text: 'We need it asap!\n6 rapid feeders', lines: [['FED-TOP-4', '6', 'EA']], days: [] },
  { text: 'please deliver by the end of the month\n6 rapid feeders', lines: [['FED-TOP-4', '6', 'EA']], days: ['2027-03-31'] },
  { text: 'can you ship next week?\n6 rapid feeders', lines: [['FED-TOP-4', '6', 'EA']], days: ['2027-03-15', '2027-03-19'] },
  { text: '6 rapid feeders within 10 days', lines: [['FED-TOP-4', '6', 'EA', '2027-03-19']] },
  { text: '6 rapid feeders by 31 april', lines: [] },
  { text: '6 rapid feeders by 18 march at the latest', lines: [['FED-TOP-4', '6', 'EA', '2027-03-18']] },

  // As they are pasted.
  { text: 'SMK-SS-10 x 12\n', lines: [['SMK-SS-10', '12', 'EA']] },
  { text: '\n\n  3 dozen bee brushes \r\n', lines: [['BRS-BEE-1', '3', 'DZN']] },
  { text: '5 matched queens buckfast', lines: [['QUN-BUC-F1', '5', 'EA']] },
];
