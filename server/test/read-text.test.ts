import { orderRoutes, type TextRead } from '@nockwright/contract/orders';
import { ITEMS } from '../../demo/scenario/items';
import { SAMPLE_TEXTS } from './sample-texts';
import { TRICKY_TEXTS } from './tricky-texts';
import { TestDesk } from './test-desk';

let desk: TestDesk;
let draft: number;
beforeAll(async () => {
  desk = await TestDesk.open();
  // The demo's items in the place of the desk's own.
  for (const table of ['supplier_item', 'item_unit', 'item_component', 'item_substitute'] as const) await desk.db.deleteFrom(table).execute();
  await desk.db.deleteFrom('item').execute();
  for (const { code, description, group, unit, weight, list, cost, units, successor } of [...ITEMS].sort(
    (a, b) => Number(!!a.successor) - Number(!!b.successor),
  )) {
    await desk.db
      .insertInto('item')
      .values({
        code,
        description,
        item_group: group,
        unit,
        weight,
        list_price: list,
        cost,
        discontinued: successor !== undefined,
        successor: successor ?? null,
      })
      .execute();
    const rows = units.map(([other, numerator, denominator]) => ({ item: code, unit: other, numerator, denominator }));
    if (rows.length > 0) await desk.db.insertInto('item_unit').values(rows).execute();
  }
  draft = (await desk.draft([])).id;
});
afterAll(() => desk.close());

const read = (text: string) => desk.call('ida', orderRoutes.readText, { params: { order: draft }, body: { text } });

/** The first reading of each line, as the samples write it. */
function asWanted({ lines }: TextRead) {
  return lines
    .filter((line) => line.readings.length > 0)
    .map((line) => [
      line.readings[0]!.item,
      line.readings[0]!.quantity,
      line.readings[0]!.unit,
      ...(line.readings[0]!.day === null ? [] : [line.readings[0]!.day]),
    ]);
}

/** Of the lines a text asks for: how many are proposed just so first, and how many among the readings that are offered. */
function understood(sample: (typeof SAMPLE_TEXTS)[number], answer: TextRead) {
  const first = asWanted(answer).map((line) => JSON.stringify(line));
  const right = sample.lines.filter((line) => first.includes(JSON.stringify(line))).length;
  const offered = sample.lines.filter(([item, quantity]) =>
    answer.lines.some((line) => line.quantity === quantity && line.readings.some((one) => one.item === item)),
  ).length;
  return { right, offered };
}

test('of thirty texts and more, every line is read as it is meant', async () => {
  const faults: unknown[] = [];
  let [right, offered, all] = [0, 0, 0];
  for (const sample of SAMPLE_TEXTS) {
    const answer = await read(sample.text);
    const found = understood(sample, answer);
    right += found.right;
    offered += found.offered;
    all += sample.lines.length + (sample.missed ?? 0);
    const visible = [
      ...answer.rest.filter((row) => row.kind !== 'courtesy').map((row) => row.words),
      ...answer.lines.filter((line) => line.readings.length === 0).map((line) => line.words),
    ].join(' | ');
    const head = { po: answer.poNumber?.value, wish: answer.wish ? [answer.wish.kind, answer.wish.days[0]] : undefined };
    const wrong = JSON.stringify(asWanted(answer)) !== JSON.stringify(sample.lines);
    const hidden = (sample.unknown ?? []).filter((words) => !visible.includes(words));
    if (wrong || hidden.length > 0 || head.po !== sample.po || JSON.stringify(head.wish) !== JSON.stringify(sample.wish))
      faults.push({ text: sample.text, got: asWanted(answer), head, hidden, visible });
  }
  process.stdout.write(`\n${SAMPLE_TEXTS.length} texts, ${all} lines: ${right} read as meant at once, ${offered} among the readings offered\n`);
  expect(faults).toEqual([]);
});

test('of sixty texts that are easily misread nothing is sure and wrong, and what is no line stays in sight', async () => {
  const faults: unknown[] = [];
  let [right, all] = [0, 0];
  for (const { text, lines, tasks = [], days, po } of TRICKY_TEXTS) {
    const answer = await read(text);
    const got = asWanted(answer).map((line) => JSON.stringify(line));
    const wanted = lines.map((line) => JSON.stringify(line));
    const taken = answer.lines.filter((line) => line.certainty === 'sure' || line.certainty === 'likely');
    const sure = asWanted({ ...answer, lines: taken.filter((line) => line.certainty === 'sure') }).map((line) => JSON.stringify(line));
    const inSight = [
      ...answer.rest.filter((one) => one.kind !== 'courtesy'),
      ...answer.lines.filter((line) => line.certainty === 'choose' || line.certainty === 'unknown'),
    ]
      .map(({ words }) => words)
      .join(' | ');
    const as = {
      sureAndWrong: sure.filter((line) => !wanted.includes(line)),
      // What is asked for is among what is proposed, and nothing else is taken without a person.
      missing: wanted.filter((line) => !got.includes(line)),
      takenAndWrong: asWanted({ ...answer, lines: taken }).filter((line) => !wanted.includes(JSON.stringify(line))),
      hidden: tasks.filter((words) => !inSight.includes(words)),
      days: days && JSON.stringify(answer.wish?.days ?? []) !== JSON.stringify(days) ? answer.wish?.days : undefined,
      po: answer.poNumber?.value === po ? undefined : (answer.poNumber?.value ?? 'none'),
    };
    all++;
    if (as.sureAndWrong.length + as.missing.length + as.takenAndWrong.length + as.hidden.length === 0 && as.days === undefined && as.po === undefined) right++;
    else
      faults.push({
        text,
        ...as,
        got,
        rest: answer.rest.map(({ kind, words }) => `${kind}: ${words}`),
        why: answer.lines.map((line) => `${line.certainty}: ${line.why}`),
      });
  }
  process.stdout.write(`\n${all} tricky texts: ${right} read as a careful person would (${Math.round((100 * right) / all)} %)\n`);
  expect(faults).toEqual([]);
});

describe('what is uncertain', () => {
  const line = async (text: string) => (await read(text)).lines[0]!;

  test('a code, or words that only one item has, are sure', async () => {
    expect(await line('SMK-SS-10 x 12')).toMatchObject({ certainty: 'sure', why: '', readings: [{ item: 'SMK-SS-10' }] });
    expect(await line('6 uncapping forks')).toMatchObject({ certainty: 'sure' });
  });

  test('a spelling mistake is taken for what is near, and says so', async () => {
    expect(await line('6 uncaping forks')).toMatchObject({ certainty: 'likely', why: '“uncaping” taken for uncapping', readings: [{ item: 'FRK-UNC-1' }] });
  });

  test('several that are called so are offered, and none is taken', async () => {
    const jars = await line('20 trays jars 340');
    expect(jars).toMatchObject({ certainty: 'choose', why: 'several are called so' });
    expect(jars.readings.map((one) => one.item).sort()).toEqual(['JAR-340-HX', 'JAR-340-RD']);
  });

  test('the one of several that the customer buys stands first', async () => {
    await desk.stockUp('JAR-340-RD', '240');
    await desk.order([['JAR-340-RD', '24']]);
    expect(await line('20 trays jars 340')).toMatchObject({
      certainty: 'likely',
      why: 'several are called so: this is the one they buy',
      readings: [
        { item: 'JAR-340-RD', usual: true },
        { item: 'JAR-340-HX', usual: false },
      ],
    });
  });

  test('a unit it is not sold by has to be chosen', async () => {
    expect(await line('JAR-340-HX 20 case')).toMatchObject({
      certainty: 'choose',
      why: 'JAR-340-HX is not sold by case; it is sold by each, tray, pallet',
      readings: [
        { item: 'JAR-340-HX', unit: 'XTY', units: ['EA', 'XTY', 'XPX'] },
        { item: 'JAR-340-HX', unit: 'EA' },
        { item: 'JAR-340-HX', unit: 'XPX' },
      ],
    });
  });

  test('an item without a quantity asks how many', async () => {
    expect(await line('SMK-SS-10')).toMatchObject({ certainty: 'choose', quantity: null, why: 'how many?' });
  });

  test('what is sold nowhere is told', async () => {
    expect(await line('8 flux capacitors')).toMatchObject({ certainty: 'unknown', words: '8 flux capacitors', readings: [] });
  });
});

describe('what was read is added', () => {
  test('what is no line stays with the order until somebody closes it, with how', async () => {
    const order = await desk.draft([]);
    const words = 'please cancel the 5 smokers';
    const body = { version: order.version, lines: [{ item: 'FRK-UNC-1', quantity: '2' }], tasks: [words] };
    const [task] = (await desk.call('ida', orderRoutes.addLines, { params: { order: order.id }, body })).tasks;
    expect(task).toMatchObject({ words, by: 'ida', closed: null });
    const close = (who: 'ida' | 'sam') =>
      desk.send(who, orderRoutes.closeTask, { params: { order: order.id, task: task!.id }, body: { how: 'cancelled on 20388' } });
    expect((await close('sam')).reply.tasks[0]!.closed).toMatchObject({ how: 'cancelled on 20388' });
    expect((await close('ida')).status).toBe(404);
  });

  test('what is sold whole is not ordered in parts; each item says in what steps it is', async () => {
    const order = await desk.draft([]);
    const add = (item: string, quantity: string, unit?: string) =>
      desk.send('ida', orderRoutes.addLine, { params: { order: order.id }, body: { item, quantity, ...(unit ? { unit } : {}) } });
    expect((await add('JAR-340-HX', '1.5')).problem.errors).toEqual([{ field: 'body.quantity', message: 'Quantity 1.5: each is sold whole. Use 1 or 2.' }]);
    expect((await add('JAR-340-HX', '0.51', 'XTY')).problem.errors).toEqual([
      { field: 'body.quantity', message: 'Quantity 0.51: trays are sold whole. Use 1.' },
    ]);
    await desk.db.updateTable('item').set({ step: '0.5' }).where('code', '=', 'WAX-BLK-1').execute();
    expect((await add('WAX-BLK-1', '1.5')).status).toBe(200);
    expect((await add('WAX-BLK-1', '1.25')).status).toBe(422);
  });

  test('all lines at once, with the head', async () => {
    const order = await desk.draft([]);
    const body = {
      version: order.version,
      poNumber: 'HX/318',
      requestKind: 'deliver_by' as const,
      requestedDay: '2027-03-18',
      lines: [
        { item: 'SMK-SS-10', quantity: '6' },
        { item: 'FND-DN-W', unit: 'XBX', quantity: '2', requestedDay: '2027-03-16' },
      ],
    };
    const view = await desk.call('ida', orderRoutes.addLines, { params: { order: order.id }, body });
    expect(view).toMatchObject({ poNumber: 'HX/318', requestKind: 'deliver_by', requestedDay: '2027-03-18' });
    expect(view.lines.map((line) => [line.item, line.quantity, line.unit, line.requestedDay])).toEqual([
      ['SMK-SS-10', '6', 'EA', null],
      ['FND-DN-W', '2', 'XBX', '2027-03-16'],
    ]);
  });

  test('or none, where one has a fault; each is told with its line', async () => {
    const order = await desk.draft([]);
    const lines = [
      { item: 'SMK-SS-10', quantity: '6' },
      { item: 'NIX', quantity: '6' },
      { item: 'SMK-SS-10', unit: 'XTY', quantity: '6' },
      { item: 'SMK-SS-08', quantity: '1' },
    ];
    const refused = await desk.send('ida', orderRoutes.addLines, { params: { order: order.id }, body: { version: order.version, lines } });
    expect(refused.problem.errors).toEqual([
      { field: 'body.lines[1].item', message: 'there is no item NIX' },
      { field: 'body.lines[2].unit', message: 'SMK-SS-10 is not sold by tray; it is sold by each' },
      { field: 'body.lines[3].item', message: 'SMK-SS-08 is discontinued; SMK-SS-10 follows it' },
    ]);
    expect((await desk.read(order)).lines).toEqual([]);
  });
});
