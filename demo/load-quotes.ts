import type { Desk } from './desk/desk';

/** Quotes in every state: out, revised with an alternative, expired, accepted whole and in part, lost, to a prospect, and one being written. */
export async function loadQuotes(desk: Desk): Promise<void> {
  // Nobody answered in time: it has expired.
  const silent = await desk.quote(-24, 'C1012', [['JAR-454-RD', 20, 'XTY']], { inDays: 10, validDays: 14 });
  await desk.mail(-24, await desk.sendQuote(-24, silent));
  // Lost on its price.
  const dear = await desk.sendQuote(-15, await desk.quote(-15, 'C1019', [['EXT-R9-EL', 1]], { inDays: 20 }));
  await desk.mail(-15, dear);
  await desk.lose(-6, dear, 'price', 'the other one was 60 euro under ours, delivered');
  // Accepted whole: its order goes its way as any other.
  const taken = await desk.sendQuote(
    -12,
    await desk.quote(
      -12,
      'C1005',
      [
        ['FRM-SN-4', 6, 'XBX'],
        ['NAI-GMP-500', 6],
      ],
      { inDays: 14 },
    ),
  );
  await desk.mail(-12, taken);
  const ordered = await desk.accept(-9, taken, [1, 2], 'MB-4410');
  await desk.mail(-9, await desk.release(-9, ordered));
  // Half of it was ordered at once; the rest stays open to them.
  const hives = await desk.sendQuote(
    -5,
    await desk.quote(
      -5,
      'C1009',
      [
        ['BOD-N10-PN', 4],
        ['FLR-N10-OM', 4],
        ['GLV-LTH-10', 6],
      ],
      { inDays: 9 },
    ),
  );
  await desk.mail(-5, hives);
  const first = await desk.accept(-2, hives, [3], 'TH/29');
  await desk.release(-2, first);
  // Out, and revised: they found the hexagonal jars dear, so round ones stand beside them.
  const jars = await desk.quote(
    -3,
    'C1014',
    [
      ['JAR-340-HX', 30, 'XTY'],
      ['LID-063-GD', 720],
    ],
    { inDays: 12 },
  );
  const dearer = await desk.sendQuote(-3, jars);
  await desk.mail(-3, dearer);
  const withOr = await desk.alternative(-2, await desk.revise(-2, dearer), 'JAR-340-RD', 30, 'XTY', 1);
  await desk.mail(-2, await desk.sendQuote(-2, withOr));
  // A prospect, whose mail address was taken down wrong on the phone.
  await desk.prospect(-1, {
    name: 'Cleeve Mead Allotment Society',
    contact: 'Joss Farrow',
    phone: '01632 960871',
    email: 'joss@cleevemead.invalid',
    street: 'Plot office, Mead Lane',
    postcode: 'CM5 2LP',
    town: 'Cleeve Mead',
  });
  const prospect = await desk.quote(
    -1,
    'Cleeve Mead Allotment Society',
    [
      ['SUT-VNT-M', 4],
      ['SMK-SS-10', 4],
      ['TOL-HIV-J', 4],
    ],
    { inDays: 10 },
  );
  await desk.mail(-1, await desk.sendQuote(-1, prospect));
  // Being written this morning.
  await desk.quote(0, 'C1016', [['FND-DN-W', 4, 'XBX']], { inDays: 7 });
  // Left for whoever speaks to them next.
  await desk.note(-2, 'C1001', 'Six empty pallets of ours are still with them: ask when the van may fetch them.');
  await desk.note(-6, 'C1020', 'Wants to hear of it when round jars in trays come down in price.');
}
